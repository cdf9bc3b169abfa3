<script setup lang="ts">
import { computed } from 'vue'
import type { StepDate } from '#core/sequence/dates'
import type { DraftEmail } from '#core/sequence/draft'
import { rateOf } from '#core/stats/rate'
import { asksOf, isWritten } from '#core/message/blocks'
import { nameOfMessage, plainLine } from '#core/message/content'
import { sayWhen } from '#core/time/say'
import type { StepNumbers } from '#core/views/course'
import { sayBasis, sayNumber, sayRate } from '#core/stats/say'
import StepSide from './StepSide.vue'

/** One step of the ladder: its date, what the reader gets, and its numbers. */
const props = defineProps<{
  step: DraftEmail
  number: number
  date: StepDate | undefined
  joinedAt: number
  workspaceZone: string
  numbers: StepNumbers | undefined
  courseId: number
  fieldName: (fieldId: number) => string
  open: boolean
  problem?: string
  /** The earlier email whose readers do not get it, by name. */
  notReadersOf?: string
}>()
const emit = defineEmits<{ open: [] }>()

const written = computed(() => isWritten(props.step.content))
const subject = computed(() => plainLine(props.step.content.subject))
const title = computed(() => nameOfMessage(props.step.content) || 'Empty email')
const asks = computed(() => asksOf(props.step.content))

const columns = computed(() => {
  const numbers = props.numbers
  const sent = numbers?.sent ?? 0
  const rate = (part: number) => rateOf(part, sent)
  return [
    { key: 'waiting', name: 'waiting', people: numbers?.waiting ?? 0, text: sayNumber(numbers?.waiting ?? 0), basis: '' },
    { key: 'sent', name: 'sent', people: sent, text: sayNumber(sent), basis: '' },
    ...(['opened', 'clicked', 'unsubscribed'] as const).map((key) => {
      const people = numbers?.[key] ?? 0
      return {
        key, name: key === 'opened' ? 'reader opens' : key, people, text: sayRate(rate(people)),
        basis: sent > 0 ? sayBasis(rate(people)) : '',
      }
    }),
  ]
})
</script>

<template>
  <div class="step" :class="{ open }">
    <StepSide :step="step" :date="date" :joined-at="joinedAt" :workspace-zone="workspaceZone" :hollow="!written" />
    <button
      :id="`step-${step.id}`" type="button" data-opens class="card" :class="{ empty: !written }"
      :aria-expanded="open" @click="emit('open')">
      <span class="top">
        <strong class="cut">{{ number }} · {{ title }}</strong>
        <span v-if="asks.length" class="asks" :title="asks.join(', ')">
          <span class="cut">{{ asks[0] }}</span>
          <span v-if="asks.length > 1" class="more">+{{ asks.length - 1 }}</span>
        </span>
      </span>
      <span class="second cut">{{ written ? subject : 'Not written yet: people wait before it' }}</span>
      <span class="second small cut">{{ sayWhen(step.when, fieldName) + (step.ignoresHours ? ', at any hour' : '') }}</span>
      <span v-if="notReadersOf" class="second small cut">not to readers of “{{ notReadersOf }}”</span>
      <span v-if="step.paused" class="small">Paused: people wait before it</span>
      <span v-if="problem" class="problem small">{{ problem }}</span>
    </button>
    <div class="figures">
      <template v-for="column in columns" :key="column.key">
        <NuxtLink v-if="column.people > 0" class="figure number" :data-name="column.name"
                  :title="`${column.name}: ${column.basis || 'who'}`"
                  :to="{ path: '/subscribers', query: { course: courseId, step: step.id, number: column.key } }">
          {{ column.text }}</NuxtLink>
        <span
          v-else class="figure number second" :data-name="column.name"
          :title="column.basis ? `${column.name}: ${column.basis}` : undefined">{{ column.text }}</span>
      </template>
    </div>
    <NuxtLink
      v-if="numbers?.heldBack" class="held small"
      :to="{ path: '/subscribers', query: { course: courseId, step: step.id, number: 'heldBack' } }">
      {{ sayNumber(numbers.heldBack) }} held back: who and why
    </NuxtLink>
  </div>
</template>

<style scoped>
.held { grid-column: 3; justify-self: start; padding: 3px 14px 0; }
.step { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; }
.card {
  display: grid; grid-template-columns: minmax(0, 1fr); gap: 1px; min-width: 0; padding: 9px 14px 10px; text-align: left; color: inherit;
  background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 8px; cursor: pointer;
}
.card:hover { border-color: var(--p-porch-ink-third); }
.open .card { border-color: var(--p-porch-door); box-shadow: inset 0 0 0 1px var(--p-porch-door); }
.card.empty { border-style: dashed; background: transparent; }
.top { display: flex; justify-content: space-between; gap: 16px; }
.top strong { font: 650 15.5px/1.35 var(--heading); }
.asks { display: flex; gap: 6px; flex: none; max-width: 46%; font-size: 12.5px; font-weight: 600; color: var(--p-porch-spruce); }
.figure { padding-top: 14px; min-height: 24px; }
a.figure { color: var(--p-porch-ink); }
.figures { display: contents; }
/* Under the email instead of beside it, each with its name. */
@media (max-width: 760px) {
  .asks { display: none; }
  .figures { display: flex; flex-wrap: wrap; gap: 2px 14px; grid-column: 3; }
  .figure { padding-top: 0; font-size: 13px; }
  .figure::before { content: attr(data-name) ' '; color: var(--p-porch-ink-second); }
}
</style>
