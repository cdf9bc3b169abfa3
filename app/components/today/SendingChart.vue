<script setup lang="ts">
import { computed, ref } from 'vue'
import { curveMonotoneX, line, max, scaleLinear, sum } from 'd3'
import { sayDay } from '#core/time/say'
import type { DayOfToday } from '#core/views/today'
import { useWidth } from '~/composables/useWidth'
import { saySome } from '#core/stats/say'
import ChartMarks from '~/components/chart/ChartMarks.vue'

/** Of the emails of the week up to each day, how many were opened and how many clicked; below, how many were sent on that day. */
const props = defineProps<{ days: DayOfToday[], zone: string }>()

const HEIGHT = 142
const [LEFT, RIGHT, TOP, FOOT, STRIP] = [36, 34, 10, 22, 16]
const WEEK = 7
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 220, before: 314 })

const weeks = computed(() => props.days.map((_, n) => {
  const week = props.days.slice(Math.max(0, n + 1 - WEEK), n + 1)
  const sent = sum(week, day => day.sent)
  return { n, sent, opened: sent ? sum(week, day => day.opened) / sent : null, clicked: sent ? sum(week, day => day.clicked) / sent : null }
}))
const x = computed(() => scaleLinear().domain([0, props.days.length - 1]).range([LEFT, width.value - RIGHT]))
const highest = computed(() => max(weeks.value, week => Math.max(week.opened ?? 0, week.clicked ?? 0)) ?? 0)
const ground = HEIGHT - FOOT - STRIP
const y = computed(() => scaleLinear().domain([0, Math.max(0.1, highest.value)]).nice(2).range([ground, TOP]))
const marks = computed(() => y.value.ticks(2))
const path = (what: 'opened' | 'clicked') => line<typeof weeks.value[number]>(week => x.value(week.n), week => y.value(week[what]!))
  .defined(week => week[what] !== null).curve(curveMonotoneX)(weeks.value) ?? ''
const last = computed(() => weeks.value.at(-1)!)
const most = computed(() => max(props.days, day => day.sent) ?? 0)
const percent = (share: number) => `${Math.round(share * 100)}%`
const says = (n: number) => {
  const [day, week] = [props.days[n]!, weeks.value[n]!]
  return `${sayDay(day.at, props.zone)}: ${saySome(day.sent, 'email', 'emails')} sent. ${week.opened === null
    ? 'None in the week before.'
    : `Of the week until then ${percent(week.opened)} were opened by a reader and ${percent(week.clicked!)} clicked.`}`
}
</script>

<template>
  <div ref="box">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="says(days.length - 1)">
      <ChartMarks :marks="marks" :y="y" :left="LEFT" :right="width - RIGHT" :says="percent" />
      <rect
        v-for="(day, n) in days" :key="day.at" :x="x(n) - 2.5" :y="ground + STRIP - (most ? day.sent / most : 0) * (STRIP - 3)" width="5"
        :height="(most ? day.sent / most : 0) * (STRIP - 3)" class="sent" />
      <path :d="path('opened')" class="opened" />
      <path :d="path('clicked')" class="clicked" />
      <template v-if="last.opened !== null">
        <circle :cx="x(last.n)" :cy="y(last.opened)" r="3.5" class="opened end" />
        <text :x="x(last.n) + 7" :y="y(last.opened) + 4">{{ percent(last.opened) }}</text>
        <circle :cx="x(last.n)" :cy="y(last.clicked!)" r="3.5" class="clicked end" />
        <text :x="x(last.n) + 7" :y="y(last.clicked!) + 4">{{ percent(last.clicked!) }}</text>
      </template>
      <rect
        v-for="(day, n) in days" :key="`over ${day.at}`" :x="x(n) - 5" :y="TOP" width="10" :height="HEIGHT - FOOT - TOP"
        fill="transparent"><title>{{ says(n) }}</title></rect>
      <text :x="LEFT" :y="HEIGHT - 5">{{ sayDay(days[0]!.at, zone) }}</text>
      <text :x="width - RIGHT" :y="HEIGHT - 5" class="last">today</text>
    </svg>
  </div>
</template>

<style scoped>
svg { display: block; }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; }
.last { text-anchor: end; }
.sent { fill: var(--p-porch-ink-third); }
path { fill: none; stroke-width: 2; }
.opened { stroke: var(--p-porch-ink-third); }
.clicked { stroke: var(--p-porch-door); }
circle.opened { fill: var(--p-porch-ceiling); stroke-width: 2; }
circle.clicked { fill: var(--p-porch-door); }
</style>
