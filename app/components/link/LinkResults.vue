<script setup lang="ts">
import { computed, ref } from 'vue'
import { max, scaleBand, scaleLinear } from 'd3'
import InputNumber from 'primevue/inputnumber'
import { sayMoment, sayZone } from '#core/time/say'
import type { LinkView } from '#core/views/links'
import { useWidth } from '~/composables/useWidth'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'

/** What came of a link: where it was followed, at what times of day, by whom, and what they did next. */
const props = defineProps<{ view: LinkView, zone: string }>()
const days = defineModel<number>('days', { required: true })

const COLUMNS: PlainColumn[] = [
  { key: 'email', head: 'Email' }, { key: 'place', head: 'Position' }, { key: 'sent', head: 'Sent', class: 'number' },
  { key: 'people', head: 'People', class: 'number' }, { key: 'clicks', head: 'Clicks', class: 'number' },
]
const HEIGHT = 120
const LEFT = 34
const GROUND = HEIGHT - 20
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 240, before: 560 })
const x = computed(() => scaleBand<number>().domain(props.view.hours.map((_, n) => n)).range([LEFT, width.value]).paddingInner(0.25))
const y = computed(() => scaleLinear().domain([0, Math.max(4, max(props.view.hours) ?? 0)]).nice(3).range([GROUND, 8]))
const marks = computed(() => y.value.ticks(3).filter(Number.isInteger))
const busiest = computed(() => props.view.hours.indexOf(Math.max(...props.view.hours)))
const hour = (n: number) => `${String(n).padStart(2, '0')}:00`
const share = (n: number) => props.view.people === 0
  ? ''
  : ` (${(100 * n / props.view.people).toLocaleString('en-GB', { maximumFractionDigits: 1 })}% of ${sayNumber(props.view.people)})`
</script>

<template>
  <section class="panel" aria-labelledby="link-results">
    <h2 id="link-results">Results</h2>
    <p v-if="!view.people && !view.places.length" class="panel-body second">No email sent so far has it.</p>
    <template v-else>
      <PlainTable :rows="view.places" :row-key="({ email, place }) => `${email} ${place}`" :columns="COLUMNS">
        <template #email="{ row }">
          <NuxtLink v-if="row.to" :to="row.to">{{ row.email }}</NuxtLink>
          <template v-else>{{ row.email }}</template> <span class="second small">{{ row.thing }}</span>
        </template>
        <template #place="{ row }">{{ row.place }}. {{ row.label }}</template>
        <template #sent="{ row }">{{ sayNumber(row.sent) }}</template>
        <template #people="{ row }">{{ sayNumber(row.people) }}</template>
        <template #clicks="{ row }">{{ sayNumber(row.clicks) }}</template>
      </PlainTable>
      <div class="row facts">
        <p><strong>{{ sayNumber(view.once) }}</strong> clicked it once, <strong>{{ sayNumber(view.again) }}</strong> came again.</p>
        <p class="next">Within
          <InputNumber
            v-model="days" :min="1" :max="365" :allow-empty="false" size="small" :suffix="days === 1 ? ' day' : ' days'"
            aria-label="Days after the click" class="few" /> after it, <strong>{{ sayNumber(view.next.bought) }}</strong> bought
          something<span class="second">{{ share(view.next.bought) }}</span>, <strong>{{ sayNumber(view.next.left) }}</strong> left a list
          or unsubscribed<span class="second">{{ share(view.next.left) }}</span>.</p>
      </div>
      <div v-if="view.clicks" class="row">
        <p class="second small">Times of day, {{ sayZone(zone) }}; most click after {{ hour(busiest) }}</p>
        <div ref="box">
          <svg
            :width="width" :height="HEIGHT" role="img"
            :aria-label="`By hour of the day: ${saySome(view.clicks, 'click', 'clicks')}, most after ${hour(busiest)}`">
            <g v-for="mark in marks" :key="mark">
              <line :x1="LEFT" :x2="width" :y1="y(mark)" :y2="y(mark)" class="mark" />
              <text :x="LEFT - 8" :y="y(mark) + 4" class="scale">{{ sayNumber(mark) }}</text>
            </g>
            <g v-for="(clicks, n) in view.hours" :key="n">
              <title>{{ hour(n) }}: {{ saySome(clicks, 'click', 'clicks') }}</title>
              <rect :x="x(n)" :y="8" :width="x.bandwidth()" :height="GROUND - 8" class="whole" />
              <rect :x="x(n)" :y="y(clicks)" :width="x.bandwidth()" :height="GROUND - y(clicks)" class="bar" />
            </g>
            <text v-for="n in [0, 6, 12, 18]" :key="n" :x="x(n)! + x.bandwidth() / 2" :y="GROUND + 15" class="hour">{{ hour(n) }}</text>
          </svg>
        </div>
      </div>
      <div v-if="view.followers.length" class="row">
        <p class="second small">
          {{ view.people > view.followers.length
            ? `The last ${view.followers.length} of ${sayPeople(view.people)}` : 'People who clicked' }}
        </p>
        <p v-for="one in view.followers" :key="one.id" class="follower">
          <NuxtLink :to="`/subscribers/${one.id}`" class="cut">{{ one.name }}</NuxtLink>
          <span class="second small">{{ one.times > 1 ? `${one.times} times, the last ` : '' }}{{ sayMoment(one.at, zone) }}</span>
        </p>
      </div>
    </template>
  </section>
</template>

<style scoped>
.facts { display: grid; gap: 6px; }
.few :deep(input) { width: 84px; }
.mark { stroke: var(--p-porch-line-light); }
.scale, .hour { font: 12px var(--body); fill: var(--p-porch-ink-second); font-variant-numeric: tabular-nums; }
.scale { text-anchor: end; }
.hour { text-anchor: middle; }
.whole { fill: transparent; }
.bar { fill: var(--p-porch-door); }
.follower { display: flex; justify-content: space-between; gap: 12px; padding: 2px 0; }
</style>
