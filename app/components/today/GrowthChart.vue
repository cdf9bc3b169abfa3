<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, maxIndex, scaleBand, scaleLinear } from 'd3'
import { sayDay } from '#core/time/say'
import type { DayOfToday } from '#core/views/today'
import { useWidth } from '~/composables/useWidth'
import { sayNumber, sayPeople } from '#core/stats/say'
import ChartMarks from '~/components/chart/ChartMarks.vue'

/** People who arrived, a bar up for each day, and people who left, a bar down. */
const props = defineProps<{ days: DayOfToday[], zone: string }>()

const HEIGHT = 142
const [LEFT, TOP, FOOT] = [30, 18, 22]
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 220, before: 314 })
const x = computed(() => scaleBand<number>().domain(props.days.map((_, n) => n)).range([LEFT, width.value]).paddingInner(0.22))
const most = computed(() => Math.max(4, max(props.days, day => day.arrived) ?? 0))
const lost = computed(() => max(props.days, day => day.left) ?? 0)
const y = computed(() => scaleLinear().domain([-lost.value, most.value]).range([HEIGHT - FOOT, TOP]))
const marks = computed(() => y.value.ticks(4).filter(mark => mark >= 0 && Number.isInteger(mark)))
const peak = computed(() => most.value > 4 ? maxIndex(props.days, day => day.arrived) : -1)
const says = (day: DayOfToday) => `${sayDay(day.at, props.zone)}: ${sayNumber(day.arrived)} arrived, ${sayNumber(day.left)} left`
const total = (what: 'arrived' | 'left') => props.days.reduce((sum, day) => sum + day[what], 0)
const summary = computed(() => {
  const most = peak.value < 0 ? '' : ` Most on ${says(props.days[peak.value]!)}.`
  return `By day, for ${props.days.length} days: ${sayPeople(total('arrived'))} arrived and ${sayNumber(total('left'))} left.${most}`
})
</script>

<template>
  <div ref="box">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="summary">
      <ChartMarks :marks="marks" :y="y" :left="LEFT" :right="width" :says="sayNumber" />
      <g v-for="(day, n) in days" :key="day.at">
        <title>{{ says(day) }}</title>
        <rect :x="x(n)" :y="TOP" :width="x.step()" :height="HEIGHT - FOOT - TOP" fill="transparent" />
        <rect v-if="day.arrived" :x="x(n)" :y="y(day.arrived)" :width="x.bandwidth()" :height="y(0) - y(day.arrived)" class="arrived" />
        <rect v-if="day.left" :x="x(n)" :y="y(0)" :width="x.bandwidth()" :height="y(-day.left) - y(0)" class="left" />
      </g>
      <text
        v-if="peak >= 0" :x="x(peak)! + x.bandwidth() / 2" :y="y(days[peak]!.arrived) - 5" class="peak" :class="{ late: peak > 20 }">
        {{ sayNumber(days[peak]!.arrived) }} on {{ sayDay(days[peak]!.at, zone) }}</text>
      <text :x="LEFT" :y="HEIGHT - 5" class="day">{{ sayDay(days[0]!.at, zone) }}</text>
      <text :x="width" :y="HEIGHT - 5" class="day last">today</text>
    </svg>
  </div>
</template>

<style scoped>
svg { display: block; }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; }
.last { text-anchor: end; }
.peak { text-anchor: middle; fill: var(--p-porch-ink); }
.peak.late { text-anchor: end; }
.arrived { fill: var(--p-porch-spruce); }
.left { fill: var(--p-porch-ink-third); }
</style>
