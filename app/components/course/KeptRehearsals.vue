<script setup lang="ts">
import { computed } from 'vue'
import type { KeptRehearsal } from '#core/views/rehearsal'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import ProblemNote from '~/components/ProblemNote.vue'

/** Rehearsals kept with a course, each played anew with it as it is now: still true? */
const props = defineProps<{
  courseId: number
  zone: string
  /** Changes with every saving of the course. */
  revision: string | undefined
  brief?: boolean
}>()
const emit = defineEmits<{ open: [kept: KeptRehearsal] }>()
const { data: kept, problem, load } = useFresh(
  () => api('GET /courses/:id/rehearsals', { at: { id: props.courseId } }), () => props.revision,
)
defineExpose({ load })
async function forget(id: number) {
  await api('DELETE /courses/:id/rehearsals/:rehearsal', { at: { id: props.courseId, rehearsal: id } })
  await load()
}
const wrong = computed(() => kept.value?.filter(({ outcome }) => outcome.kind !== 'same') ?? [])
const inBrief = computed(() => {
  const names = wrong.value.map(({ reader }) => reader.name).join(', ')
  if (names) return `Something has changed: ${names}. Look under Rehearsal.`
  const many = kept.value?.length ?? 0
  return `${many === 1 ? 'The kept rehearsal tells' : `All ${many} kept rehearsals tell`} the same as before.`
})
</script>

<template>
  <template v-if="kept?.length">
    <p v-if="brief" class="note" :class="wrong.length ? 'brick' : ''">{{ inBrief }}</p>
    <section v-else class="panel panel-body kept" aria-labelledby="kept-rehearsals">
      <h2 id="kept-rehearsals">Kept with the course: still true?</h2>
      <div v-for="one in kept" :key="one.id" class="one">
        <p class="line"><i
          :class="one.outcome.kind === 'same' ? 'pi pi-check-circle fine' : 'pi pi-exclamation-circle wrong'" aria-hidden="true" /> <button
          type="button" class="link-button" @click="emit('open', one)">{{ one.reader.name }}</button> <span class="second small">kept on
          {{ sayMoment(one.keptAt, zone) }}</span> <span>{{ one.outcome.kind === 'same'
          ? 'The same story, line by line.' : one.outcome.kind === 'cannot' ? one.outcome.why : 'Another story now:' }}</span> <button
          type="button" class="link-button small last" @click="forget(one.id)">Forget it</button></p>
        <ul v-if="one.outcome.kind === 'differs'" class="small">
          <li v-for="(line, n) in one.outcome.gone.slice(0, 6)" :key="`g${n}`" class="gone">no longer: {{ sayMoment(line.at, zone) }}
            {{ line.says }}</li>
          <li v-for="(line, n) in one.outcome.fresh.slice(0, 6)" :key="`f${n}`" class="fresh">new: {{ sayMoment(line.at, zone) }}
            {{ line.says }}</li>
          <li v-if="one.outcome.gone.length > 6 || one.outcome.fresh.length > 6" class="second">and
            {{ Math.max(0, one.outcome.gone.length - 6) + Math.max(0, one.outcome.fresh.length - 6) }} more lines</li>
        </ul>
      </div>
    </section>
  </template>
  <ProblemNote v-else-if="!brief" :of="problem" />
</template>

<style scoped>
.kept { display: grid; gap: 6px; margin-bottom: 12px; }
.kept h2 { font-size: 14.5px; }
.line { display: flex; gap: 8px; align-items: baseline; flex-wrap: wrap; }
.last { margin-left: auto; }
.fine { color: var(--p-porch-spruce); }
.wrong, .gone { color: var(--p-porch-brick); }
.fresh { color: var(--p-porch-spruce); }
ul { margin: 2px 0 0 24px; padding: 0; list-style: none; }
</style>
