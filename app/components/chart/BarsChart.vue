<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, scaleBand, scaleLinear } from 'd3'
import { useWidth } from '~/composables/useWidth'
import { sayNumber } from '#core/stats/say'
import ChartMarks from './ChartMarks.vue'

/** So much in each stretch of time, a bar each; of two series the second is a part of the first, and stands in front of it. */
export interface Bar {
  key: string
  /** Under the bar, where there is room. */
  name: string
  /** Where the pointer is. */
  says: string
  counts: number[]
}
const props = defineProps<{ bars: Bar[], series: string[], /** *In 12 weeks*. */ stretch: string }>()

const [HEIGHT, LEFT, TOP, FOOT] = [196, 44, 18, 24]
const GROUND = HEIGHT - FOOT
/** A name needs so much room, and so does the number on a bar. */
const [NAME, NUMBER] = [84, 26]
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 240, before: 640 })

const x = computed(() => scaleBand<number>().domain(props.bars.map((_, n) => n)).range([LEFT, width.value]).paddingInner(0.3))
const most = computed(() => max(props.bars, ({ counts }) => max(counts)) ?? 0)
const y = computed(() => scaleLinear().domain([0, Math.max(4, most.value)]).nice(4).range([GROUND, TOP]))
/** Whole numbers only: half a visit is none. */
const marks = computed(() => y.value.ticks(4).filter(Number.isInteger))
const front = computed(() => props.series.length - 1)
/** The last one always has its name. */
const isNamed = (n: number) =>
  (props.bars.length - 1 - n) % Math.max(1, Math.ceil(props.bars.length * NAME / (width.value - LEFT))) === 0
const isLast = (n: number) => n === props.bars.length - 1
const totals = computed(() => props.series
  .map((name, s) => `${sayNumber(props.bars.reduce((sum, { counts }) => sum + counts[s]!, 0))} ${name}`).join(', '))
</script>

<template>
  <div ref="box">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`${stretch}: ${totals}`">
      <ChartMarks :marks="marks" :y="y" :left="LEFT" :right="width" :says="sayNumber" />
      <g v-for="(bar, n) in bars" :key="bar.key">
        <title>{{ bar.says }}</title>
        <rect :x="x(n)" :y="TOP" :width="x.bandwidth()" :height="GROUND - TOP" class="whole" />
        <rect
          v-for="(count, s) in bar.counts" :key="s" :x="x(n)! + s * x.bandwidth() * 0.2" :y="y(count)"
          :width="x.bandwidth() * (1 - s * 0.4)" :height="GROUND - y(count)" :class="s === front ? 'front' : 'behind'" />
        <text v-if="bar.counts[front] && x.step() > NUMBER" :x="x(n)! + x.bandwidth() / 2" :y="y(bar.counts[front]!) - 5" class="count">
          {{ sayNumber(bar.counts[front]!) }}</text>
        <text
          v-if="isNamed(n)" :x="isLast(n) ? width : x(n)! + x.bandwidth() / 2" :y="HEIGHT - 6" class="name"
          :class="{ last: isLast(n) }">{{ bar.name }}</text>
      </g>
    </svg>
    <p v-if="series.length > 1" class="key second small">
      <span v-for="(name, s) in series" :key="name"><i :class="s === front ? 'front' : 'behind'" aria-hidden="true" /> {{ name }}</span>
    </p>
  </div>
</template>

<style scoped>
svg { display: block; }
text { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; text-anchor: middle; }
.last { text-anchor: end; }
.count { fill: var(--p-porch-ink); paint-order: stroke; stroke: var(--p-porch-paper); stroke-width: 3; }
.whole { fill: transparent; }
rect.behind { fill: var(--p-porch-line); }
rect.front { fill: var(--p-porch-door); }
.key { display: flex; gap: 16px; padding-top: 6px; }
.key i { display: inline-block; width: 12px; height: 12px; border-radius: 2px; vertical-align: -1px; }
.key .behind { background: var(--p-porch-line); }
.key .front { background: var(--p-porch-door); }
</style>
