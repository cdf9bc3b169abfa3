<script setup lang="ts">
import { computed } from 'vue'
import { scaleLinear } from 'd3'
import type { Rate } from '#core/stats/rate'
import { sayInterval, sayRate } from '#core/stats/say'

/** Rates of one email on an axis that all rows share, each with its likely range. */
const props = defineProps<{ rates: { name: string, of: Rate, filled: boolean }[], /** Where the axis ends, 0 to 1. */ most: number }>()
const [WIDTH, HEIGHT, ROW, EDGE] = [206, 36, 14, 8]
const x = computed(() => scaleLinear().domain([0, props.most]).range([EDGE, WIDTH - 52]))
const ticks = computed(() => x.value.ticks(4))
const rows = computed(() => props.rates.filter(({ of }) => of.value !== null).map((rate, n) => ({
  ...rate, y: 11 + n * ROW, says: `${sayRate(rate.of)} ${rate.name}, ${sayInterval(rate.of)}`,
})))
</script>

<template>
  <svg :width="WIDTH" :height="HEIGHT" role="img" :aria-label="rows.map(({ says }) => says).join('; ')">
    <line v-for="tick in ticks" :key="tick" :x1="x(tick)" :x2="x(tick)" y1="2" :y2="HEIGHT - 2" class="grid" />
    <g v-for="row in rows" :key="row.name">
      <title>{{ row.says }}</title>
      <line :x1="x(row.of.low!)" :x2="x(row.of.high!)" :y1="row.y" :y2="row.y" class="range" />
      <circle :cx="x(row.of.value!)" :cy="row.y" r="4" :class="row.filled ? 'filled' : 'hollow'" />
      <text :x="WIDTH" :y="row.y + 4">{{ sayRate(row.of) }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg { display: inline-block; vertical-align: middle; }
.grid { stroke: var(--p-porch-line-light); }
.range { stroke: var(--p-porch-ink-third); stroke-width: 2; stroke-linecap: round; }
.filled { fill: var(--p-porch-door); }
.hollow { fill: var(--p-porch-paper); stroke: var(--p-porch-ink-third); stroke-width: 2; }
text { font: 12.5px var(--body); fill: var(--p-porch-ink); text-anchor: end; font-variant-numeric: tabular-nums; }
</style>
