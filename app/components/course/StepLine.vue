<script setup lang="ts">
import type { DraftEmail } from '#core/sequence/draft'
import type { LocalDate } from '#core/time/zone'
import { LineEditor } from '~/editor/lazy'
import WhenForm from './WhenForm.vue'

/** An email of the ladder with its subject and its time to be written in place. Enter goes on to the next subject. */
const step = defineModel<DraftEmail>({ required: true })
defineProps<{
  number: number
  isFirst: boolean
  dateFields: { id: number, name: string }[]
  entryDateId: number | null
  today: LocalDate
}>()

function goOn(event: KeyboardEvent) {
  const by = event.key === 'ArrowUp' || (event.key === 'Enter' && event.shiftKey) ? -1 : 1
  const subjects = [...document.querySelectorAll<HTMLElement>('.step-subject [role="textbox"]')]
  const next = subjects[subjects.indexOf(document.activeElement as HTMLElement) + by]
  if (!next) return
  event.preventDefault()
  next.focus()
}
</script>

<template>
  <div class="step-line" role="group" :aria-label="`Email ${number}`">
    <div class="step-subject" @keydown.enter.capture="goOn" @keydown.up="goOn" @keydown.down="goOn">
      <span class="second" aria-hidden="true">{{ number }}</span>
      <LineEditor v-model="step.content.subject" :label="`Subject of email ${number}`" bare />
    </div>
    <WhenForm v-model="step.when" :is-first="isFirst" :date-fields="dateFields" :entry-date-id="entryDateId" :today="today" />
  </div>
</template>

<style scoped>
.step-line { display: grid; gap: 6px; grid-column: 3 / -1; min-width: 0; padding: 4px 0 6px; }
.step-subject { display: grid; grid-template-columns: 16px minmax(0, 1fr); align-items: center; gap: 6px; }
.step-line > :last-child { padding-left: 22px; }
</style>
