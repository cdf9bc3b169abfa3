<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, scaleBand, scaleLinear } from 'd3'
import { sayDate } from '#core/time/say'
import type { LocalDate } from '#core/time/zone'
import { useWidth } from '~/composables/useWidth'
import { sayNumber } from '~/words/say'

/** So much in each week, a bar each; a second series stands in front of the first, which it is a part of. */
const props = defineProps<{ firstDays: LocalDate[], series: { name: string, counts: number[] }[] }>()

const HEIGHT = 200
const [LEFT, TOP, FOOT] = [44, 18, 24]
const ground = HEIGHT - FOOT
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 240, before: 640 })
const x = computed(() => scaleBand<number>().domain(props.firstDays.map((_, n) => n)).range([LEFT, width.value]).paddingInner(0.35))
const y = computed(() =>
  scaleLinear().domain([0, Math.max(4, max(props.series, ({ counts }) => max(counts)) ?? 0)]).nice(4).range([ground, TOP]))
const marks = computed(() => y.value.ticks(4).filter(Number.isInteger))
const every = computed(() => Math.max(1, Math.ceil(props.firstDays.length * 62 / width.value)))
const says = (n: number) => `Week from ${sayDate(props.firstDays[n]!)}: ${props.series.map(({ name, counts }) => `${sayNumber(counts[n]!)} ${name}`).join(', ')}`
/** `23 Nov`: the year and the day of the week are said where the pointer is. */
const dayName = (day: LocalDate) => sayDate(day).replace(/^\p{L}+ | \d{4}$/gu, '')
const total = (counts: number[]) => counts.reduce((sum, n) => sum + n, 0)
</script>

<template>
  <div ref="box">
    <svg
      :width="width" :height="HEIGHT" role="img"
      :aria-label="`In ${firstDays.length} weeks: ${series.map(({ name, counts }) => `${sayNumber(total(counts))} ${name}`).join(', ')}`">
      <g v-for="mark in marks" :key="mark">
        <line :x1="LEFT" :x2="width" :y1="y(mark)" :y2="y(mark)" :class="mark === 0 ? 'ground' : 'mark'" />
        <text :x="LEFT - 8" :y="y(mark) + 4" class="scale">{{ sayNumber(mark) }}</text>
      </g>
      <g v-for="(day, n) in firstDays" :key="day">
        <title>{{ says(n) }}</title>
        <rect :x="x(n)" :y="TOP" :width="x.bandwidth()" :height="ground - TOP" fill="transparent" />
        <template v-for="({ name, counts }, s) in series" :key="name">
          <rect
            :x="x(n)! + s * x.bandwidth() * 0.2" :y="y(counts[n]!)" :width="x.bandwidth() * (1 - s * 0.4)" :height="ground - y(counts[n]!)"
            :class="s === series.length - 1 ? 'front' : 'behind'" />
        </template>
        <text
          v-if="series.at(-1)!.counts[n]" :x="x(n)! + x.bandwidth() / 2" :y="y(series.at(-1)!.counts[n]!) - 5" class="count">
          {{ sayNumber(series.at(-1)!.counts[n]!) }}</text>
        <text v-if="n % every === 0" :x="x(n)! + x.bandwidth() / 2" :y="HEIGHT - 6" class="day">{{ dayName(day) }}</text>
      </g>
    </svg>
    <p v-if="series.length > 1" class="key second small">
      <template v-for="({ name }, s) in series" :key="name"><span :class="s === series.length - 1 ? 'front' : 'behind'" aria-hidden="true" /> {{ name }}</template>
    </p>
  </div>
</template>

<style scoped>
svg { display: block; }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; text-anchor: middle; }
.scale { text-anchor: end; }
.count { fill: var(--p-porch-ink); paint-order: stroke; stroke: var(--p-porch-paper); stroke-width: 3; }
.mark { stroke: var(--p-porch-line-light); }
.ground { stroke: var(--p-porch-rail-wood); stroke-width: 1.5; }
rect.behind { fill: var(--p-porch-line); }
rect.front { fill: var(--p-porch-door); }
.key { display: flex; gap: 6px; align-items: center; padding-top: 6px; }
.key span { width: 12px; height: 12px; border-radius: 2px; }
.key span + span { margin-left: 10px; }
.key .behind { background: var(--p-porch-line); }
.key .front { background: var(--p-porch-door); margin-left: 10px; }
</style>
