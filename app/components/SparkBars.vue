<script setup lang="ts">
import { computed } from 'vue'
import { max, scaleLinear } from 'd3'
import { sayNumber } from '#core/stats/say'

/** The last weeks of a thing, a bar each, and the number of the last one. `words` say what is counted: *opt-ins*. */
const props = defineProps<{ counts: number[] | null, words: string }>()

const [BAR, GAP, HEIGHT] = [4, 2, 26]
const counts = computed(() => props.counts ?? [])
const y = computed(() => scaleLinear().domain([0, Math.max(1, max(counts.value) ?? 0)]).range([0, HEIGHT - 2]))
const width = computed(() => counts.value.length * (BAR + GAP) - GAP)
</script>

<template>
  <span v-if="counts.length" class="spark">
    <svg
      :width="width" :height="HEIGHT" role="img"
      :aria-label="`${words} in each of the last ${counts.length} weeks: ${counts.map(sayNumber).join(', ')}`">
      <title>{{ words }} in each of the last {{ counts.length }} weeks: {{ counts.map(sayNumber).join(', ') }}</title>
      <rect
        v-for="(count, n) in counts" :key="n" :x="n * (BAR + GAP)" :y="HEIGHT - 1.5 - y(count)" :width="BAR" :height="y(count)"
        :class="{ last: n === counts.length - 1 }" />
      <line x1="0" :x2="width" :y1="HEIGHT - 0.75" :y2="HEIGHT - 0.75" />
    </svg>
    <span aria-hidden="true">{{ sayNumber(counts.at(-1) ?? 0) }}</span>
  </span>
</template>

<style scoped>
.spark { display: inline-flex; align-items: flex-end; gap: 7px; font-variant-numeric: tabular-nums; line-height: 1; white-space: nowrap; }
svg { display: block; flex: none; }
rect { fill: var(--p-send-course); opacity: 0.55; }
rect.last { opacity: 1; }
line { stroke: var(--p-porch-rail-wood); stroke-width: 1.5; }
</style>
