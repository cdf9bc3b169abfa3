<script setup lang="ts">
import { ref } from 'vue'
import { sayDay, sayLength, sayTime } from '#core/time/say'
import { DAY, HOUR, localOf, type Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { sayNumber } from '#core/stats/say'

/** What needs the owner, the most urgent first, each with its next action. */
const props = defineProps<{ notices: Notice[], now: Instant, zone: string }>()

/** So many are seen at once, so that the rest of the morning stays in sight. */
const MOST = 5
const all = ref(false)

/** The first is larger where there is a moment by which it must be done. */
const isPressing = ({ tone, by }: Notice, n: number) => n === 0 && (tone === 'trouble' || (by !== undefined && by < props.now + DAY))
function sayBy(by: Instant): string {
  const left = by - props.now
  if (left <= 0) return 'late'
  if (left < 2 * HOUR) return `${sayLength(left)} left`
  const isToday = localOf(by, props.zone).date === localOf(props.now, props.zone).date
  return `by ${isToday ? '' : `${sayDay(by, props.zone)}, `}${sayTime(by, props.zone)}`
}
</script>

<template>
  <ul class="panel notices">
    <li
      v-for="(notice, n) in all ? notices : notices.slice(0, MOST)" :key="notice.title"
      :class="[notice.tone, { pressing: isPressing(notice, n) }]">
      <span class="people">
        <NuxtLink v-if="notice.people && notice.people.count > 0" :to="notice.people.to">
          <strong>{{ sayNumber(notice.people.count) }}</strong>
          <span class="second small">{{ notice.people.count === 1 ? 'person' : 'people' }}</span>
        </NuxtLink>
        <i v-else class="pi" :class="notice.tone === 'trouble' ? 'pi-exclamation-triangle' : 'pi-info-circle'" aria-hidden="true" />
      </span>
      <span class="words">
        <NuxtLink :to="notice.to" tabindex="-1"><strong>{{ notice.title }}</strong></NuxtLink>
        <span class="second small">{{ notice.text }}</span>
      </span>
      <span v-if="notice.by !== undefined" class="by small" :class="{ soon: notice.by < now + 2 * HOUR }">{{ sayBy(notice.by) }}</span>
      <NuxtLink :to="notice.to" class="act">{{ notice.action }}</NuxtLink>
    </li>
    <li v-if="notices.length > MOST" class="rest">
      <button type="button" class="link-button" :aria-expanded="all" @click="all = !all">
        {{ all ? 'Show fewer' : `Show ${sayNumber(notices.length - MOST)} more` }}</button>
    </li>
    <li v-if="notices.length === 0" class="calm"><i class="pi pi-check-circle" aria-hidden="true" /> Nothing needs attention.</li>
  </ul>
</template>

<style scoped>
.notices { margin: 0; padding: 0; list-style: none; }
li {
  display: grid; grid-template-columns: 50px minmax(0, 1fr) auto auto; gap: 0 12px; align-items: center; padding: 7px 14px;
  border-bottom: 1px solid var(--p-porch-line-light);
}
li:last-child { border-bottom: 0; }
li.rest { display: block; padding-block: 6px; }
li.calm { display: flex; gap: 8px; padding: 18px 14px; color: var(--p-porch-spruce); }
.people { text-align: right; }
.people a { display: grid; justify-items: end; color: inherit; text-decoration: none; line-height: 1.2; }
.people strong {
  font: 650 17px/1.2 var(--heading); color: var(--p-porch-door); text-decoration: underline; text-underline-offset: 3px;
  text-decoration-color: color-mix(in srgb, currentcolor 35%, transparent);
}
.people .pi { color: var(--p-porch-ink-third); }
.trouble .people .pi { color: var(--p-porch-brick); }
.words { display: grid; min-width: 0; overflow-wrap: anywhere; }
.trouble .words strong { color: var(--p-porch-brick); }
.pressing { padding-block: 13px; }
.words a { color: inherit; text-decoration: none; }
.words a:hover { text-decoration: underline; }
.pressing .words strong { font: 650 18px/1.3 var(--heading); }
.pressing .people strong { font-size: 24px; }
.by { color: var(--p-porch-ink-second); white-space: nowrap; }
.by.soon {
  padding: 2px 8px; border-radius: 4px; background: var(--p-porch-lamp-ground); color: var(--p-porch-lamp-text); font-weight: 600;
}
.act {
  grid-column: 4; display: inline-flex; align-items: center; justify-content: center; min-width: 152px; min-height: 32px; padding: 4px 14px;
  border: 1px solid var(--p-porch-line); border-radius: 6px; background: var(--p-porch-paper); color: var(--p-porch-ink); font-weight: 600;
  font-size: 13.5px; text-decoration: none; white-space: nowrap;
}
.act:hover { border-color: var(--p-porch-ink-third); background: var(--p-porch-rail); }
.pressing .act { background: var(--p-porch-door); border-color: var(--p-porch-door); color: var(--p-porch-door-text); }
@media (max-width: 760px) {
  li { grid-template-columns: 44px minmax(0, 1fr); gap: 6px 12px; align-items: start; }
  .by, .act { grid-column: 2; justify-self: start; }
}
</style>
