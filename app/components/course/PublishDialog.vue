<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Dialog from '~/components/DialogBox'
import type { EntryPart, StepChange } from '#core/sequence/changes'
import type { DraftStep } from '#core/sequence/draft'
import { sayMoment } from '#core/time/say'
import type { ChangeOutlook, CourseView } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayNumber, sayPeople } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** Says what publishing changes, for how many people at which step; then does it. */
const props = defineProps<{ course: CourseView, zone: string, revision?: string, say: (
  step: DraftStep,
) => string, title: (stepId: string) => string }>()
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ done: [said: string] }>()

const outlook = ref<ChangeOutlook | null>(null)
const goesOn = ref(false)
const { busy, problem, attempt } = useAttempt()
watch(visible, (open) => {
  if (open) void attempt(async () => outlook.value = await api('GET /courses/:id/outlook/change', { at: { id: props.course.id } }))
}, { immediate: true })

const WHAT: Record<StepChange, string> = {
  added: 'is new', removed: 'is removed', moved: 'has moved', retimed: 'has another time', reworded: 'has other words',
  paused: 'is paused', resumed: 'is no longer paused', changed: 'has other settings',
}
const ENTRY_PARTS: Record<EntryPart, string> = {
  listId: 'the list it belongs to', wayInTagIds: 'the tags that start it', wayInListIds: 'the lists that start it',
  entry: 'who can join', again: 'who can take it again', waysOut: 'the ways out', onFinish: 'what happens at its end',
  dates: 'the date people join by', hours: 'its sending hours',
}
const gone = computed(() =>
  new Map(outlook.value?.steps.filter(({ what }) => what[0] === 'removed').map(({ step }) => [step.id, step]) ?? []))
const place = (stepId: string | null) =>
  stepId === null ? 'the end' : gone.value.has(stepId) ? `“${props.say(gone.value.get(stepId)!)}”` : `“${props.title(stepId)}”`
const atOnce = computed(() => outlook.value?.effects.reduce((sum, { atOnce: n }) => sum + n, 0) ?? 0)
const touched = computed(() => outlook.value?.effects.reduce((sum, { people }) => sum + people, 0) ?? 0)
const whenOpen = computed(() => outlook.value?.effects.reduce((sum, { whenOpen: n }) => sum + n, 0) ?? 0)
const opensAt = computed(() => Math.min(...outlook.value?.effects.flatMap(effect => effect.opensAt ?? []) ?? []))
function sayEffect(effect: ChangeOutlook['effects'][number]): string {
  const { fromStepId, toStepId } = effect
  const n = (many: number, words: string) => many ? [`${sayNumber(many)} ${words}`] : []
  const parts = [
    ...n(effect.atOnce, 'at once'), ...effect.opensAt === null
      ? []
      : n(effect.whenOpen, `when the sending hours open, at ${sayMoment(effect.opensAt, props.zone)}`),
    ...n(effect.earlier, 'earlier than before'), ...n(effect.later, 'later than before'), ...n(effect.planned, 'at their time'),
    ...n(effect.stands, 'wait there until it is written or no longer paused'),
  ]
  return `${fromStepId === toStepId ? 'stay' : toStepId === null ? 'have finished' : `continue before ${place(toStepId)}`}${parts.length ? `: ${parts.join(', ')}` : ''}`
}

const go = () => attempt(async () => {
  const { moved, goOn } = await api('POST /courses/:id/publish', {
    at: { id: props.course.id }, body: { goesOn: goesOn.value }, ifMatch: props.revision,
  })
  emit(
    'done',
    `The changes apply to ${sayPeople(moved)} inside.${goOn ? ` ${sayPeople(goOn)} who had finished ${goOn === 1 ? 'goes' : 'go'} on.` : ''}`,
  )
  visible.value = false
})
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="`Publish the changes to ${course.name}`" :style="{ width: '620px' }">
    <div v-if="outlook" class="fields">
      <section aria-label="What changes">
        <ul class="changes">
          <li v-for="{ step, what } in outlook.steps" :key="step.id">
            <strong>{{ say(step) }}</strong> {{ what.map(one => WHAT[one]).join(', ') }}
          </li>
          <li v-if="outlook.entryParts.length">{{ outlook.entryParts.map(part => ENTRY_PARTS[part]).join(', ') }}: changed</li>
        </ul>
      </section>
      <section aria-label="For whom">
        <p>
          {{ sayPeople(outlook.inside) }} {{ outlook.inside === 1 ? 'is' : 'are' }} inside. Nothing already sent is sent again.
          {{ touched === 0 ? 'Nobody’s place or time changes.' : `The place or time of ${sayPeople(touched)} changes:` }}
        </p>
        <table v-if="outlook.effects.length" class="effects small">
          <thead><tr><th>They are waiting before</th><th class="number">People</th><th>Then they</th></tr></thead>
          <tbody>
            <tr v-for="effect in outlook.effects" :key="`${effect.fromStepId}/${effect.toStepId}`">
              <td>{{ place(effect.fromStepId) }}</td>
              <td class="number">{{ sayNumber(effect.people) }}</td>
              <td>{{ sayEffect(effect) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="atOnce > 0" class="note lamp">For <strong>{{ sayPeople(atOnce) }}</strong> the next step happens at once, because this
          change puts its time in the past.</p>
        <p
          v-if="whenOpen > 0" class="note lamp">For <strong>{{ sayPeople(whenOpen) }}</strong> it happens when the sending hours open, at
          {{ sayMoment(opensAt, zone) }}.</p>
        <p v-if="atOnce + whenOpen === 0">This change sends nothing at once.</p>
      </section>
      <div v-if="outlook.newEnd && outlook.newEnd.finished > 0" class="line">
        <Checkbox v-model="goesOn" binary input-id="goes-on" />
        <label for="goes-on">{{ sayPeople(outlook.newEnd.finished) }} finished before this change:
          let them continue with “{{ title(outlook.newEnd.stepId) }}”</label>
      </div>
      <slot />
      <ProblemNote :of="problem" first />
      <div class="end">
        <Button severity="secondary" label="Not yet" @click="visible = false" />
        <Button label="Publish the changes" :loading="busy" @click="go" />
      </div>
    </div>
    <ProblemNote v-else-if="problem" :of="problem" />
    <p v-else class="second">Looking at where people are …</p>
  </Dialog>
</template>

<style scoped>
.changes { margin: 0; padding: 0 0 0 18px; display: grid; gap: 2px; }
.effects { width: 100%; border-collapse: collapse; margin: 6px 0; }
.effects th {
  text-align: left; font-weight: 600; color: var(--p-porch-ink-second); padding: 4px 8px 4px 0;
  border-bottom: 1px solid var(--p-porch-line);
}
.effects td { padding: 4px 8px 4px 0; border-bottom: 1px solid var(--p-porch-line-light); vertical-align: top; overflow-wrap: anywhere; }
.effects .number { text-align: right; white-space: nowrap; }
.line { display: flex; gap: 8px; align-items: baseline; }
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
