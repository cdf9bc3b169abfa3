<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Select from 'primevue/select'
import type { ThingKind } from '#core/things'
import { NAMER_WORDS } from '#core/uses'
import type { EndingView, UseLine } from '#core/views/ending'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayPeople } from '#core/stats/say'
import { addressOf } from '~/words/uses'
import ProblemNote from '~/components/ProblemNote.vue'

/** What names a thing and what would become of it; and another one put in its place everywhere. */
const props = defineProps<{ kind: ThingKind, id: number, /** Another can be put in its place here. */ replaces?: boolean }>()
const emit = defineEmits<{ told: [view: EndingView] }>()
const { busy, problem, attempt } = useAttempt()
const view = ref<EndingView | null>(null)
const into = ref<number | null>(null)
/** Said once something took its place: what its owner still has to publish. */
const waits = ref<string[] | null>(null)
const at = { kind: props.kind, id: props.id }

const load = () => attempt(async () => {
  view.value = await api('GET /uses/:kind/:id', { at })
  emit('told', view.value)
})
const replace = () => attempt(async () => {
  waits.value = (await api('POST /uses/:kind/:id/replace', { at, body: { into: into.value! } })).waits
  into.value = null
  await load()
})
onMounted(load)

/** Who would be concerned; or that nobody reads it yet. */
function concerns({ kind, people, inForce }: UseLine): string {
  if (!inForce) return ' (in the draft)'
  if (people === null) return ''
  if (kind === 'segment') return `, with ${sayPeople(people)},`
  return people === 0 ? ', with nobody inside,' : `, with ${sayPeople(people)} inside,`
}
const target = computed(() => view.value?.others.find(({ id }) => id === into.value))
</script>

<template>
  <div class="uses">
    <ProblemNote :of="problem" />
    <p v-if="waits" class="note" role="status">
      It was replaced.<template v-if="waits.length"> Publish {{ waits.join(' and ') }}, too: other changes wait there.</template>
    </p>
    <template v-if="view && view.uses.length">
      <ul>
        <li v-for="use in view.uses" :key="use.how + use.kind + use.id">
          {{ NAMER_WORDS[use.kind] }} <NuxtLink :to="addressOf(use)"><strong>{{ use.name }}</strong></NuxtLink>{{ concerns(use) }}
          {{ use.without }}
        </li>
      </ul>
      <p v-if="view.blocked" class="small brick-text">Replace it there first, or remove it there.</p>
      <form v-if="replaces && view.others.length" class="line" @submit.prevent="replace">
        <Select
          v-model="into" :options="view.others" option-label="name" option-value="id" filter size="small" placeholder="another one"
          aria-label="Replace with" />
        <Button
          type="submit" size="small" severity="secondary" :label="target ? `Put ${target.name} in its place` : 'Replace it'"
          :disabled="!target" :loading="busy" />
      </form>
    </template>
  </div>
</template>

<style scoped>
.uses { display: grid; gap: 8px; }
.uses:empty { display: none; }
ul { margin: 0; padding-left: 20px; overflow-wrap: anywhere; }
.line { display: flex; flex-wrap: wrap; gap: 8px; }
.brick-text { color: var(--p-porch-brick); }
</style>
