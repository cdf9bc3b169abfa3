<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { ListLine, TagLine } from '#core/views/marks'
import type { TaskView } from '#core/views/tasks'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayPeople } from '#core/stats/say'
import UsesOf from './UsesOf.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Merging a tag or list into another, or deleting it, told first what that does to what uses it. */
const props = defineProps<{ kind: 'tag' | 'list', line: TagLine | ListLine, others: { id: number, name: string }[] }>()
/** With the task, where a merging goes on. */
const emit = defineEmits<{ ended: [task: TaskView | null] }>()
const { busy, problem, attempt } = useAttempt()
const way = ref<'merge' | 'delete' | null>(null)
const into = ref<number | null>(null)
const number = ref('')
const ending = ref<HTMLElement | null>(null)
/** What is told stands at the end of a long form. */
const show = () => ending.value?.scrollIntoView({ block: 'nearest' })
const at = computed(() => ({ id: props.line.id }))
const target = computed(() => props.others.find(({ id }) => id === into.value))

/** What merging it into the one of this name does. */
const sayMerge = (name: string) => props.kind === 'tag'
  ? `People with “${props.line.name}” get “${name}” instead. Everything that uses one uses the other.`
  : `People on “${props.line.name}” are on “${name}”; people who left either have left it. Pages, courses and segments follow.`

const blocked = ref<boolean | null>(null)

const merge = () => attempt(async () => {
  emit('ended', await api(`POST /${props.kind}s/:id/merge`, { at: at.value, body: { into: into.value! } }))
})
const remove = () => attempt(async () => {
  await api(`DELETE /${props.kind}s/:id`, { at: at.value, body: { people: Number(number.value) } })
  emit('ended', null)
})
</script>

<template>
  <div ref="ending" class="ending">
    <p v-if="way === null" class="ways">
      <button v-if="others.length" type="button" class="link-button" @click="way = 'merge'">Merge it into another {{ kind }}</button>
      <button type="button" class="link-button danger" @click="way = 'delete'">Delete it</button>
    </p>
    <form v-else-if="way === 'merge'" class="fields" @submit.prevent="merge">
      <div class="field">
        <span class="label" aria-hidden="true">Merge it into</span>
        <Select
          v-model="into" aria-label="Merge it into" :options="others" option-label="name" option-value="id" filter
          :placeholder="`choose a ${kind}`" />
      </div>
      <p v-if="target" class="second small">{{ sayMerge(target.name) }} This cannot be undone.</p>
      <ProblemNote :of="problem" line class="small" />
      <div class="ends">
        <Button severity="secondary" size="small" label="Keep it" @click="way = null" />
        <Button
          type="submit" size="small" :label="target ? `Merge it into ${target.name}` : 'Merge it'" :disabled="!target" :loading="busy" />
      </div>
    </form>
    <form v-else class="fields" @submit.prevent="remove">
      <p>
        {{ sayPeople(line.people) }} {{ line.people === 1 ? 'has' : 'have' }} it and would
        {{ kind === 'tag' ? 'lose it' : 'no longer be on it' }}.<template v-if="line.uses.length"> And:</template>
      </p>
      <UsesOf :kind="kind" :id="line.id" @told="view => { blocked = view.blocked; nextTick(show) }" />
      <p v-if="blocked && others.length">
        <button type="button" class="link-button" @click="way = 'merge'">Merge it into another {{ kind }}</button>: that takes its place
        everywhere.
      </p>
      <div v-if="blocked === false" class="field">
        <label for="delete-number">Type the number {{ line.people }} to delete it</label>
        <InputText id="delete-number" v-model="number" inputmode="numeric" autocomplete="off" />
      </div>
      <ProblemNote :of="problem" line class="small" />
      <div class="ends">
        <Button severity="secondary" size="small" label="Keep it" @click="way = null" />
        <Button
          type="submit" severity="danger" size="small" :label="`Delete the ${kind}`" :loading="busy"
          :disabled="blocked !== false || number.trim() !== String(line.people)" />
      </div>
    </form>
  </div>
</template>

<style scoped>
.ending { border-top: 1px solid var(--p-porch-line-light); margin-top: 16px; padding-top: 12px; }
.ways { display: flex; justify-content: space-between; }
.danger { color: var(--p-porch-brick); }
.ends { display: flex; justify-content: flex-end; gap: 8px; }
</style>
