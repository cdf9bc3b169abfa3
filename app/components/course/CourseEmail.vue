<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import { isWritten } from '#core/message/blocks'
import { nameOfMessage, type MessageContent } from '#core/message/content'
import type { DraftEmail } from '#core/sequence/draft'
import type { StepDate } from '#core/sequence/dates'
import { sayMoment, sayZone } from '#core/time/say'
import { dayNumber, localOf } from '#core/time/zone'
import { sayPeople } from '#core/stats/say'
import PeopleNumber from '~/components/PeopleNumber.vue'
import EmailDesk from '~/components/email/EmailDesk.vue'

/** One email of a course, to be written over the whole screen. */
const props = defineProps<{
  courseId: number, courseName: string, step: DraftEmail, emails: DraftEmail[], dates: ReadonlyMap<string, StepDate>, joinedAt: number
  listId: number | null, tags: { id: number, name: string }[]
  /** Who stands before it. */
  waiting: number
}>()
const emit = defineEmits<{ change: [content: MessageContent], go: [stepId: string | null], when: [] }>()
const date = computed(() => props.dates.get(props.step.id))
function day(stepId: string): string {
  const at = props.dates.get(stepId)
  if (!at?.plannedAt) return '–'
  return String(dayNumber(localOf(at.plannedAt, at.zone).date) - dayNumber(localOf(props.joinedAt, at.zone).date))
}
</script>

<template>
  <div>
    <header class="head">
      <nav class="way small" aria-label="Emails of the course">
        <button type="button" class="link-button back" @click="emit('go', null)">
          <i class="pi pi-arrow-left" aria-hidden="true" /> {{ courseName }}
        </button>
        <ol>
          <li v-for="one in emails" :key="one.id">
            <button
              type="button" class="day" :class="{ on: one.id === step.id, empty: !isWritten(one.content) }"
              :aria-current="one.id === step.id ? 'page' : undefined" :title="nameOfMessage(one.content) || 'not written yet'"
              :aria-label="`Email of day ${day(one.id)}: ${nameOfMessage(one.content) || 'not written yet'}`" @click="emit('go', one.id)">
              <span class="dot" aria-hidden="true" /><template v-if="one.id === step.id">Day </template>{{ day(one.id) }}</button>
          </li>
        </ol>
      </nav>
      <div class="line">
        <div>
          <h1 class="cut">{{ nameOfMessage(step.content) || 'An email without a title' }}</h1>
          <p class="second">
            <template v-if="date?.plannedAt">
              For the sample joiner {{ sayMoment(date.plannedAt, date.zone) }}, {{ sayZone(date.zone) }}.
            </template>
            <template v-else>The sample joiner does not get it.</template>
            <template v-if="waiting > 0">
              {{ ' ' }}<PeopleNumber
                :people="waiting" :query="{ course: courseId, step: step.id, number: 'waiting' }" :words="sayPeople(waiting)" />
              {{ waiting === 1 ? 'is' : 'are' }} waiting for it.</template>
            {{ ' ' }}<slot name="saved" />
          </p>
        </div>
        <div class="actions">
          <Button label="When it goes, and follow-ups" severity="secondary" @click="emit('when')" />
          <slot name="actions" />
        </div>
      </div>
    </header>
    <EmailDesk
      :key="step.id" :model-value="step.content" kind="course" :list-id="listId" :tags="tags" :owner-id="courseId" :step-id="step.id"
      @update:model-value="content => emit('change', content)" />
  </div>
</template>

<style scoped>
.head { display: grid; gap: 4px; padding-bottom: 14px; }
.way { display: flex; gap: 18px; align-items: center; flex-wrap: wrap; }
.back { display: inline-flex; gap: 5px; align-items: center; color: var(--p-porch-ink-second); }
.back .pi { font-size: 11px; }
ol { display: flex; flex-wrap: wrap; list-style: none; margin: 0; padding: 0; gap: 2px; }
.day {
  display: inline-flex; gap: 5px; align-items: center; min-height: 24px; padding: 2px 6px; border: 0; background: none; cursor: pointer;
  color: var(--p-porch-ink-second); font: inherit;
}
.day.on { font-weight: 650; color: var(--p-porch-ink); }
.dot { width: 9px; height: 9px; border-radius: 50%; background: var(--p-send-course); opacity: 0.6; }
.on .dot { opacity: 1; width: 11px; height: 11px; }
.empty .dot { background: none; border: 2px solid var(--p-send-course); }
.line { display: flex; justify-content: space-between; align-items: end; gap: 24px; }
.line > div { min-width: 0; display: grid; gap: 4px; }
.line > .actions { display: flex; gap: 8px; flex: none; }
@media (max-width: 760px) { .line { display: grid; } .line > .actions { flex-wrap: wrap; } }
</style>
