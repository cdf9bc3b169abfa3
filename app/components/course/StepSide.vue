<script setup lang="ts">
import { computed } from 'vue'
import type { StepDate } from '#core/sequence/dates'
import type { DraftStep } from '#core/sequence/draft'
import { sayDay, sayTime, sayZone } from '#core/time/say'
import { dayNumber, localOf } from '#core/time/zone'

/** The left edge of a step of the ladder: its day and time for the sample joiner, and the line with what kind of step it is. */
const props = defineProps<{ step: DraftStep, date: StepDate | undefined, joinedAt: number, workspaceZone: string, hollow?: boolean }>()
const day = computed(() => {
  const at = props.date?.plannedAt
  if (at === null || at === undefined) return null
  const { zone } = props.date!
  return dayNumber(localOf(at, zone).date) - dayNumber(localOf(props.joinedAt, zone).date)
})
</script>

<template>
  <div class="when">
    <template v-if="date?.plannedAt">
      <p class="day">Day {{ day }}</p>
      <p>{{ sayDay(date.plannedAt, date.zone) }}</p>
      <p>
        {{ step.when.kind === 'at-once' && step.kind === 'email' ? 'at once' : sayTime(date.plannedAt, date.zone) }}<span
          v-if="date.zone !== workspaceZone">, {{ sayZone(date.zone) }}</span>
      </p>
    </template>
    <template v-else>
      <p class="day">Passed over</p>
      <p>
        {{ date?.skipped === 'no-date' ? 'no such date' : date?.skipped === 'past' ? 'already past for this joiner'
          : 'not reached by this joiner' }}
      </p>
    </template>
  </div>
  <div class="line grip" aria-hidden="true" title="Drag to move"><span class="post" :class="[step.kind, { hollow }]" /></div>
</template>

<style scoped>
.when { text-align: right; padding-top: 9px; font-size: 13px; color: var(--p-porch-ink-second); line-height: 1.35; }
.day { font: 650 16px/1.3 var(--heading); color: var(--p-porch-ink); }
.line { position: relative; cursor: grab; }
.line::before {
  content: ''; position: absolute; left: 50%; top: 0; bottom: -12px; width: 2px; margin-left: -1px; background: var(--p-porch-line);
}
.post {
  position: absolute; left: 50%; top: 16px; width: 12px; height: 12px; margin-left: -6px; border-radius: 50%;
  background: var(--p-send-course); border: 2px solid var(--p-porch-ceiling);
}
.post.hollow { background: var(--p-porch-ceiling); border-color: var(--p-send-course); }
/* Only what is sent has a post of a colour; what else happens on the way is a mark on the line. */
.post:not(.email) { border-radius: 2px; background: var(--p-porch-ink-second); width: 10px; height: 10px; margin-left: -5px; }
.post.fork { transform: rotate(45deg); }
</style>
