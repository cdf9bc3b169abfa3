<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, scaleLinear, scaleTime } from 'd3'
import { sayMoment, sayTime } from '#core/time/say'
import { HOUR, type Instant } from '#core/time/zone'
import { sayNumber, sayPeople } from '#core/stats/say'
import { useWidth } from '~/composables/useWidth'

/** How many emails leave in which hour. */
const props = defineProps<{ hours: { at: Instant, people: number }[], zone: string }>()
const [HEIGHT, FOOT, TOP, EDGE] = [88, 18, 16, 4]
const GROUND = HEIGHT - FOOT
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 180, before: 250 })
const from = computed(() => props.hours[0]!.at)
const to = computed(() => props.hours.at(-1)!.at + HOUR)
const x = computed(() => scaleTime().domain([from.value, to.value]).range([EDGE, width.value - EDGE]))
const bar = computed(() => Math.max(3, Math.min(26, (x.value(from.value + HOUR) - x.value(from.value)) * 0.8)))
const most = computed(() => max(props.hours, ({ people }) => people) ?? 0)
const y = computed(() => scaleLinear().domain([0, Math.max(1, most.value)]).range([GROUND, TOP]))
const fullest = computed(() => props.hours.find(({ people }) => people === most.value)!)
const middle = (at: Instant) => x.value(at + HOUR / 2)
</script>

<template>
  <div ref="box">
    <svg
      :width="width" :height="HEIGHT" role="img"
      :aria-label="`From ${sayMoment(hours[0]!.at, zone)} to ${sayMoment(hours.at(-1)!.at, zone)}; most in the hour from ${sayMoment(fullest.at, zone)}: ${sayPeople(fullest.people)}`">
      <line x1="0" :x2="width" :y1="GROUND" :y2="GROUND" class="ground" />
      <g v-for="hour in hours" :key="hour.at">
        <title>{{ sayMoment(hour.at, zone) }}: {{ sayPeople(hour.people) }}</title>
        <rect :x="middle(hour.at) - bar / 2" :y="y(hour.people)" :width="bar" :height="Math.max(1, GROUND - y(hour.people))" />
      </g>
      <text
        :x="Math.min(width - 16, Math.max(16, middle(fullest.at)))" :y="y(most) - 4" class="count">{{ sayNumber(fullest.people) }}</text>
      <text :x="0" :y="HEIGHT - 4" class="start">{{ sayTime(hours[0]!.at, zone) }}</text>
      <text v-if="hours.length > 1" :x="width" :y="HEIGHT - 4" class="end">{{ sayTime(hours.at(-1)!.at, zone) }}</text>
    </svg>
  </div>
</template>

<style scoped>
svg { display: block; }
.ground { stroke: var(--p-porch-rail-wood); stroke-width: 2; }
rect { fill: var(--p-send-broadcast); }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; }
.count { fill: var(--p-porch-ink); font-weight: 600; text-anchor: middle; }
.end { text-anchor: end; }
</style>
