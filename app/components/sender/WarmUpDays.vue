<script setup lang="ts">
import { computed } from 'vue'
import { sayNumber, saySome } from '#core/stats/say'
import { sayDate } from '#core/time/say'
import { mostOn } from '#core/sending/warmUp'
import type { WarmUpLine } from '#core/views/senders'

/** The days of a plan so far: what might leave, and what did. */
const props = defineProps<{ plan: WarmUpLine }>()
const SHOWN = 21
const [BAR, GAP, HEIGHT] = [9, 3, 44]
const days = computed(() => props.plan.sent.slice(-SHOWN).map(day => ({ ...day, most: mostOn(props.plan, props.plan.sent, day.date) })))
const top = computed(() => Math.max(1, ...days.value.map(({ sent, most }) => Math.max(sent, most ?? 0))))
const height = (n: number) => Math.max(n > 0 ? 1 : 0, n / top.value * HEIGHT)
const today = computed(() => props.plan.sent.at(-1)!)
const width = computed(() => days.value.length * (BAR + GAP) - GAP)
</script>

<template>
  <div class="plan">
    <svg :width="width" :height="HEIGHT + 2" aria-hidden="true">
      <g v-for="(day, n) in days" :key="day.date">
        <title>{{ sayDate(day.date) }}: {{ sayNumber(day.sent) }} of {{ day.most === null ? 'any number' : sayNumber(day.most) }}</title>
        <rect
          :x="n * (BAR + GAP)" :y="HEIGHT - height(day.most ?? day.sent)" :width="BAR" :height="height(day.most ?? day.sent)"
          class="most" />
        <rect :x="n * (BAR + GAP)" :y="HEIGHT - height(day.sent)" :width="BAR" :height="height(day.sent)" class="sent" />
      </g>
      <line x1="0" :x2="width" :y1="HEIGHT + 1" :y2="HEIGHT + 1" />
    </svg>
    <p class="small">
      <template v-if="plan.most === null"><strong>Warmed up.</strong> It may send {{ sayNumber(plan.until) }} emails a day and
        more.</template>
      <template v-else><strong>Warm-up, day {{ plan.sent.length }}:</strong> {{ sayNumber(today.sent) }} of
        {{ saySome(plan.most, 'email', 'emails') }} sent today.</template>
    </p>
  </div>
</template>

<style scoped>
.plan { display: flex; gap: 12px; align-items: end; flex-wrap: wrap; padding-top: 4px; }
svg { display: block; flex: none; }
.most { fill: color-mix(in srgb, var(--p-porch-ink-second) 26%, transparent); }
.sent { fill: var(--p-porch-door); }
line { stroke: var(--p-porch-rail-wood); stroke-width: 2; }
</style>
