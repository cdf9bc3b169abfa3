<script setup lang="ts">
import { computed, ref } from 'vue'
import { area, curveMonotoneX, max, scaleLinear, scaleTime } from 'd3'
import { sayMoment } from '#core/time/say'
import { HOUR, type Instant } from '#core/time/zone'
import { sayNumber } from '#core/stats/say'
import { useWidth } from '~/composables/useWidth'
import ChartMarks from '~/components/chart/ChartMarks.vue'

/** First opens and first clicks, hour by hour since it began. */
const props = defineProps<{ hours: { hour: number, opened: number, clicked: number }[], from: Instant, zone: string }>()
const [HEIGHT, LEFT, TOP, FOOT] = [150, 36, 10, 22]
const GROUND = HEIGHT - FOOT
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 240, before: 540 })
/** Hours without any are hours, too. */
const all = computed(() => {
  const known = new Map(props.hours.map(row => [row.hour, row]))
  const last = Math.max(6, ...props.hours.map(({ hour }) => hour))
  return Array.from({ length: last + 1 }, (_, hour) => known.get(hour) ?? { hour, opened: 0, clicked: 0 })
})
const end = computed(() => props.from + all.value.length * HOUR)
const x = computed(() => scaleTime().domain([props.from, end.value]).range([LEFT, width.value]))
const y = computed(() => scaleLinear().domain([0, Math.max(2, max(all.value, ({ opened }) => opened) ?? 0)]).nice(3).range([GROUND, TOP]))
const marks = computed(() => y.value.ticks(3).filter(Number.isInteger))
const path = (what: 'opened' | 'clicked') => area<typeof all.value[number]>()
  .x(({ hour }) => x.value(props.from + (hour + 0.5) * HOUR)).y0(GROUND).y1(row => y.value(row[what])).curve(curveMonotoneX)(all.value)
    ?? ''
const names = computed(() => [0, Math.floor(all.value.length / 2), all.value.length])
const total = (what: 'opened' | 'clicked') => sayNumber(all.value.reduce((sum, row) => sum + row[what], 0))
const says = computed(() =>
  `From ${sayMoment(props.from, props.zone)} to ${sayMoment(end.value, props.zone)}: ${total('opened')} first opens, ${total('clicked')} first clicks`)
</script>

<template>
  <div ref="box">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="says">
      <ChartMarks :marks="marks" :y="y" :left="LEFT" :right="width" :says="sayNumber" />
      <path :d="path('opened')" class="opened" />
      <path :d="path('clicked')" class="clicked" />
      <rect
        v-for="row in all" :key="row.hour" :x="x(from + row.hour * HOUR)" :y="TOP" :width="Math.max(1, x(from + HOUR) - LEFT)"
        :height="GROUND - TOP" fill="transparent">
        <title>{{ sayMoment(from + row.hour * HOUR, zone) }}: {{ sayNumber(row.opened) }} first opens, {{ sayNumber(row.clicked) }} first
          clicks</title>
      </rect>
      <line :x1="LEFT" :x2="width" :y1="GROUND" :y2="GROUND" class="ground" />
      <text
        v-for="(hour, n) in names" :key="hour" :x="x(from + hour * HOUR)" :y="HEIGHT - 5"
        :style="{ textAnchor: n === 0 ? 'start' : n === names.length - 1 ? 'end' : 'middle' }">
        {{ sayMoment(from + hour * HOUR, zone) }}</text>
    </svg>
    <p class="key second small"><span><i class="opened" aria-hidden="true" />first reader opens</span>
      <span><i class="clicked" aria-hidden="true" />first clicks</span></p>
  </div>
</template>

<style scoped>
svg { display: block; }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); }
path.opened { fill: color-mix(in srgb, var(--p-send-broadcast) 28%, transparent); }
path.clicked { fill: var(--p-porch-door); }
.ground { stroke: var(--p-porch-rail-wood); stroke-width: 2; }
.key { display: flex; gap: 16px; padding-top: 4px; }
.key i { display: inline-block; width: 12px; height: 12px; border-radius: 2px; vertical-align: -1px; margin-right: 5px; }
i.opened { background: color-mix(in srgb, var(--p-send-broadcast) 28%, transparent); }
i.clicked { background: var(--p-porch-door); }
</style>
