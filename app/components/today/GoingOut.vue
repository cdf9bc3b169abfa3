<script setup lang="ts">
import { sayDay, sayTime, sayLength } from '#core/time/say'
import { HOUR, localOf, type Instant } from '#core/time/zone'
import type { NamedSend } from '#core/views/frame'
import { sayNumber } from '#core/stats/say'
import SendSign from '~/components/SendSign.vue'

/** What goes out next, with how many get it. */
const props = defineProps<{ sends: NamedSend[], now: Instant, zone: string }>()
function sayWhen(at: Instant): string {
  if (at <= props.now) return 'now'
  if (at < props.now + HOUR) return `in ${sayLength(at - props.now)}`
  return localOf(at, props.zone).date === localOf(props.now, props.zone).date ? 'today' : sayDay(at, props.zone)
}
</script>

<template>
  <ul>
    <li v-for="send in sends" :key="`${send.kind} ${send.ownerId} ${send.itemId} ${send.at}`">
      <NuxtLink :to="send.to ?? ''">
        <span class="when"><span>{{ sayTime(send.at, zone) }}</span><span class="second small">{{ sayWhen(send.at) }}</span></span>
        <SendSign :kind="send.kind" />
        <span class="what"><strong class="cut">{{ send.title }}</strong><span class="second small cut">{{ send.of }}</span></span>
        <span class="number">{{ sayNumber(send.people) }}</span>
      </NuxtLink>
    </li>
  </ul>
</template>

<style scoped>
ul { margin: 0; padding: 0; list-style: none; }
li { border-bottom: 1px solid var(--p-porch-line); }
li:last-child { border-bottom: 0; }
a {
  display: grid; grid-template-columns: 78px 10px minmax(0, 1fr) auto; gap: 0 10px; align-items: baseline; padding: 5px 10px;
  color: inherit;
  text-decoration: none;
}
a:hover { background: var(--p-porch-rail); }
.when { display: grid; font-variant-numeric: tabular-nums; line-height: 1.4; }
.what { display: grid; min-width: 0; }
</style>
