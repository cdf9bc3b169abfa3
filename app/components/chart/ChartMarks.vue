<script setup lang="ts">
import type { ScaleLinear } from 'd3'

/** The lines of a chart across its width, with what each stands for; the ground is the porch's rail. */
defineProps<{ marks: number[], y: ScaleLinear<number, number>, left: number, right: number, says: (mark: number) => string }>()
</script>

<template>
  <g v-for="mark in marks" :key="mark">
    <line :x1="left" :x2="right" :y1="y(mark)" :y2="y(mark)" :class="mark === 0 ? 'ground' : 'mark'" />
    <text :x="left - 8" :y="y(mark) + 4">{{ says(mark) }}</text>
  </g>
</template>

<style scoped>
text { font: 12px var(--body); fill: var(--p-porch-ink-second); text-anchor: end; font-variant-numeric: tabular-nums; }
.mark { stroke: var(--p-porch-line); stroke-opacity: 0.7; }
.ground { stroke: var(--p-porch-rail-wood); stroke-width: 1.5; }
</style>
