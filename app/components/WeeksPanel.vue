<script setup lang="ts">
import { computed } from 'vue'
import { WEEKS, type WeeklyKind } from '#core/views/weeks'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import WeeksChart from './WeeksChart.vue'

/** What all things of a list came to in the last weeks, under the list. */
const props = defineProps<{ title: string, series: { kind: WeeklyKind, name: string }[] }>()
const { data: views } = useFresh(() => Promise.all(props.series.map(({ kind }) => api('GET /weeks/:kind', { at: { kind } }))))
const series = computed(() => (views.value ?? []).map(({ rows }, n) => ({
  name: props.series[n]!.name, counts: Array.from({ length: WEEKS }, (_, week) => rows.reduce((sum, { counts }) => sum + counts[week]!, 0)),
})))
</script>

<template>
  <section v-if="views && series.some(({ counts }) => counts.some(Boolean))" class="panel panel-body" :aria-label="title">
    <h2>{{ title }}</h2>
    <WeeksChart :first-days="views[0]!.firstDays" :series="series" />
  </section>
</template>

<style scoped>
h2 { margin-bottom: 8px; }
</style>
