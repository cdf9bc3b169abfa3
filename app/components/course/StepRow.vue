<script setup lang="ts">
import { computed } from 'vue'
import type { StepDate } from '#core/sequence/dates'
import type { DraftStep } from '#core/sequence/draft'
import { rateOf } from '#core/stats/rate'
import { isWritten, plainLine } from '#core/message/content'
import { sayDay, sayTime, sayWhen, sayZone } from '#core/time/say'
import { dayNumber, localOf } from '#core/time/zone'
import type { StepNumbers } from '#core/views/course'
import { sayBasis, sayNumber, sayRate } from '~/look/say'

/** One step of the ladder: its date, what the reader gets, and its numbers. */
const props = defineProps<{
  step: DraftStep
  number: number
  date: StepDate | undefined
  joinedAt: number
  workspaceZone: string
  numbers: StepNumbers | undefined
  courseId: number
  fieldName: (fieldId: number) => string
  open: boolean
  problem?: string
}>()
const emit = defineEmits<{ open: [] }>()

const written = computed(() => isWritten(props.step.content))
const subject = computed(() => plainLine(props.step.content.subject))
const title = computed(() => props.step.content.workingTitle || subject.value || 'Empty email')
/** What the reader is asked to press. */
const asks = computed(() => props.step.content.body.content.flatMap(block => block.type === 'button' ? [block.attrs.label] : []))

const day = computed(() => {
  const at = props.date?.plannedAt
  if (at === null || at === undefined) return null
  const { zone } = props.date!
  return dayNumber(localOf(at, zone).date) - dayNumber(localOf(props.joinedAt, zone).date)
})

const columns = computed(() => {
  const numbers = props.numbers
  const sent = numbers?.sent ?? 0
  const rate = (part: number) => rateOf(part, sent)
  return [
    { key: 'waiting', name: 'waiting', people: numbers?.waiting ?? 0, text: sayNumber(numbers?.waiting ?? 0), basis: '' },
    { key: 'sent', name: 'sent', people: sent, text: sayNumber(sent), basis: '' },
    ...(['opened', 'clicked', 'unsubscribed'] as const).map((key) => {
      const people = numbers?.[key] ?? 0
      return { key, name: key === 'opened' ? 'reader opens' : key, people, text: sayRate(rate(people)), basis: sent > 0 ? sayBasis(rate(people)) : '' }
    }),
  ]
})
</script>

<template>
  <li class="step" :class="{ open }">
    <div class="when">
      <template v-if="date?.plannedAt !== null && date">
        <p class="day">Day {{ day }}</p>
        <p>{{ sayDay(date.plannedAt, date.zone) }}</p>
        <p>{{ step.when.kind === 'at-once' ? 'at once' : sayTime(date.plannedAt, date.zone) }}<span v-if="date.zone !== workspaceZone">, {{ sayZone(date.zone) }}</span></p>
      </template>
      <template v-else><p class="day">Passed over</p><p>{{ date?.skipped === 'no-date' ? 'no such date' : 'already past for this joiner' }}</p></template>
    </div>
    <div class="line" aria-hidden="true"><span class="post" :class="{ hollow: !written }" /></div>
    <button type="button" class="card" :class="{ empty: !written }" :aria-expanded="open" @click="emit('open')">
      <span class="top"><strong class="cut">{{ number }} · {{ title }}</strong><span v-if="asks.length" class="asks" :title="asks.join(', ')"><span class="cut">{{ asks[0] }}</span><span v-if="asks.length > 1" class="more">+{{ asks.length - 1 }}</span></span></span>
      <span class="second cut">{{ written ? subject : 'Not written yet: people stand before it' }}</span>
      <span class="second small cut">{{ sayWhen(step.when, fieldName) }}<template v-if="step.ignoresHours">, whatever the sending hours</template><template v-if="numbers?.heldBack">, {{ sayNumber(numbers.heldBack) }} held back</template></span>
      <span v-if="problem" class="problem small">{{ problem }}</span>
    </button>
    <template v-for="column in columns" :key="column.key">
      <NuxtLink v-if="column.people > 0" class="figure number" :to="{ path: '/subscribers', query: { course: courseId, step: step.id, number: column.key } }" :title="column.basis ? `${column.name}: ${column.basis}` : `${column.name}: who they are`">{{ column.text }}</NuxtLink>
      <span v-else class="figure number second" :title="column.basis ? `${column.name}: ${column.basis}` : undefined">{{ column.text }}</span>
    </template>
  </li>
</template>

<style scoped>
.step { display: contents; }
.when { text-align: right; padding-top: 9px; font-size: 13px; color: var(--p-porch-ink-second); line-height: 1.35; }
.day { font: 650 16px/1.3 var(--heading); color: var(--p-porch-ink); }
.line { position: relative; }
.line::before { content: ''; position: absolute; left: 50%; top: 0; bottom: -12px; width: 2px; margin-left: -1px; background: var(--p-porch-line); }
.post { position: absolute; left: 50%; top: 16px; width: 12px; height: 12px; margin-left: -6px; border-radius: 50%; background: var(--p-send-course); border: 2px solid var(--p-porch-ceiling); }
.post.hollow { background: var(--p-porch-ceiling); border-color: var(--p-send-course); }
.card { display: grid; gap: 1px; min-width: 0; padding: 9px 14px 10px; text-align: left; color: inherit; background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 8px; cursor: pointer; }
.card:hover { border-color: var(--p-porch-ink-third); }
.open .card { border-color: var(--p-porch-door); box-shadow: inset 0 0 0 1px var(--p-porch-door); }
.card.empty { border-style: dashed; background: transparent; }
.top { display: flex; justify-content: space-between; gap: 16px; }
.top strong { font: 650 15.5px/1.35 var(--heading); }
.asks { display: flex; gap: 6px; flex: none; max-width: 46%; font-size: 12.5px; font-weight: 600; color: var(--p-porch-spruce); }
.problem { color: var(--p-porch-brick); }
.figure { padding-top: 14px; min-height: 24px; }
a.figure { color: var(--p-porch-ink); }
</style>
