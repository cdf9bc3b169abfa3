<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, scaleBand, scaleLinear } from 'd3'
import { sayDay } from '#core/time/say'
import type { PageResults } from '#core/views/pages'
import { useWidth } from '~/composables/useWidth'
import { sayNumber, saySome } from '~/words/say'

/** Visits and opt-ins of a page, a bar a day; the opt-ins stand in front, with a line on top. */
const props = defineProps<{ days: PageResults['byDay'], zone: string }>()

const HEIGHT = 190
const LEFT = 44
const GROUND = HEIGHT - 24
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 240, before: 640 })

const x = computed(() => scaleBand<number>().domain(props.days.map((_, n) => n)).range([LEFT, width.value]).paddingInner(0.25))
const y = computed(() =>
  scaleLinear().domain([0, Math.max(4, max(props.days, day => Math.max(day.visits, day.optIns)) ?? 0)]).nice(4).range([GROUND, 10]))
/** Whole numbers only: half a visit is none. */
const marks = computed(() => y.value.ticks(4).filter(Number.isInteger))
/** As many days are named as there is room for. */
const named = computed(() => {
  const every = Math.max(1, Math.ceil(props.days.length / Math.floor((width.value - LEFT) / 100)))
  return props.days.map((day, n) => ({ n, says: sayDay(day.at, props.zone) })).filter(({ n }) => (props.days.length - 1 - n) % every === 0)
})
const says = (day: PageResults['byDay'][number]) =>
  `${sayDay(day.at, props.zone)}: ${saySome(day.visits, 'visit', 'visits')}, ${saySome(day.optIns, 'opt-in', 'opt-ins')}`
const total = computed(() => ({
  visits: props.days.reduce((sum, day) => sum + day.visits, 0), optIns: props.days.reduce((sum, day) => sum + day.optIns, 0),
}))
</script>

<template>
  <div ref="box">
    <svg
      :width="width" :height="HEIGHT" role="img"
      :aria-label="`By day: ${saySome(total.visits, 'visit', 'visits')} and ${saySome(total.optIns, 'opt-in', 'opt-ins')} in ${saySome(days.length, 'day', 'days')}`">
      <g v-for="mark in marks" :key="mark">
        <line :x1="LEFT" :x2="width" :y1="y(mark)" :y2="y(mark)" class="mark" />
        <text :x="LEFT - 8" :y="y(mark) + 4" class="scale">{{ sayNumber(mark) }}</text>
      </g>
      <g v-for="(day, n) in days" :key="day.day">
        <title>{{ says(day) }}</title>
        <rect :x="x(n)" :y="8" :width="x.bandwidth()" :height="GROUND - 8" class="whole" />
        <rect :x="x(n)" :y="y(day.visits)" :width="x.bandwidth()" :height="GROUND - y(day.visits)" class="visits" />
        <rect
          v-if="day.optIns" :x="x(n)! + x.bandwidth() * 0.2" :y="y(day.optIns)" :width="x.bandwidth() * 0.6"
          :height="GROUND - y(day.optIns)" class="opt-ins" />
      </g>
      <text
        v-for="{ n, says: name } in named" :key="n" :x="n === days.length - 1 ? width : x(n)! + x.bandwidth() / 2" :y="GROUND + 17"
        class="day" :class="{ last: n === days.length - 1 }">{{ name }}</text>
    </svg>
    <p class="key second small"><span class="visits" aria-hidden="true" /> visits <span class="opt-ins" aria-hidden="true" /> opt-ins, people once a day</p>
  </div>
</template>

<style scoped>
svg { display: block; }
.mark { stroke: var(--p-porch-line-light); }
.scale { font: 12px var(--body); fill: var(--p-porch-ink-second); text-anchor: end; font-variant-numeric: tabular-nums; }
.day { font: 12px var(--body); fill: var(--p-porch-ink-second); text-anchor: middle; }
.last { text-anchor: end; }
.whole { fill: transparent; }
rect.visits { fill: var(--p-porch-line); }
rect.opt-ins { fill: var(--p-porch-door); }
.key { display: flex; gap: 6px; align-items: center; padding-top: 6px; }
.key span { width: 12px; height: 12px; border-radius: 2px; }
.key .visits { background: var(--p-porch-line); }
.key .opt-ins { background: var(--p-porch-door); margin-left: 10px; }
</style>
