<script setup lang="ts">
import { computed, ref } from 'vue'
import { scaleBand, scaleSqrt } from 'd3'
import type { CalendarDay, Expected } from '#core/views/calendar'
import { sayDay, sayZone } from '#core/time/say'
import { instantOf } from '#core/time/zone'
import { weekdayOf } from '#core/time/when'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import SendSign from '~/components/SendSign.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { data: view, problem } = useFresh(() => api('GET /calendar'), () => frame.mode)
const zone = computed(() => view.value?.zone ?? 'UTC')
const total = computed(() => view.value?.days.reduce((sum, { people }) => sum + people, 0) ?? 0)
const open = computed(() => view.value?.days.some(({ low, high }) => low !== high) ?? false)
const standing = computed(() => !view.value ? '' : total.value === 0
  ? 'Nothing is planned in the next 28 days.'
  : `${saySome(total.value, 'email', 'emails')} expected in 28 days, from where everyone is now.`)

/** Weeks of seven, so that the days of the week stand beneath each other. */
const lead = computed(() => view.value ? weekdayOf(view.value.days[0]!.date) - 1 : 0)
const WEEK = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const [WIDTH, HEIGHT] = [120, 30]
const x = scaleBand<number>().domain(Array.from({ length: 48 }, (_, n) => n)).range([0, WIDTH])
const most = computed(() => Math.max(4, ...view.value?.days.flatMap(({ slots }) => slots.map(({ people }) => people)) ?? []))
const y = computed(() => scaleSqrt().domain([0, most.value]).range([2, HEIGHT]))
const slotOf = (time: string) => Number(time.slice(0, 2)) * 2 + (time.slice(3) === '30' ? 1 : 0)

const chosen = ref<string | null>(null)
const day = computed(() =>
  view.value?.days.find(({ date }) => date === chosen.value) ?? view.value?.days.find(({ people }) => people > 0) ?? null)
const say = ({ people, low, high }: Expected) => low === high ? sayNumber(people) : `${sayNumber(low)} to ${sayNumber(high)}`
const label = (one: CalendarDay) =>
  `${sayDay(one.at, zone.value)}: ${one.people === 0 ? 'nothing' : `${say(one)} emails`}${one.crowded ? `, ${sayPeople(one.crowded)} would get more than ${view.value!.most}` : ''}`
</script>

<template>
  <div>
    <PageHead title="Coming days" how="coming-days">{{ standing }}</PageHead>
    <ProblemNote :of="problem" />
    <template v-if="view">
      <p v-if="open" class="second small explain">At a hold or a fork, people are split the way earlier people were. Ranges are right 19
        times in 20. People who leave or buy in the meantime will get fewer emails.</p>
      <div class="month" role="group" aria-label="28 days">
        <span v-for="name in WEEK" :key="name" class="second small name" aria-hidden="true">{{ name }}</span>
        <button
          v-for="(one, n) in view.days" :key="one.date" type="button" class="day"
          :class="{ here: day?.date === one.date, none: one.people === 0, now: n === 0 }"
          :style="n === 0 ? { gridColumnStart: lead + 1 } : {}" :aria-pressed="day?.date === one.date" :aria-label="label(one)"
          @click="chosen = one.date">
          <span class="top"><span class="small">{{ sayDay(one.at, zone) }}</span><strong v-if="one.people">{{ say(one) }}</strong></span>
          <svg class="posts" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
            <rect
              v-for="slot in one.slots" :key="slot.time" :x="x(slotOf(slot.time))" :y="HEIGHT - y(slot.people)" :width="x.bandwidth() + 0.6"
              :height="y(slot.people)" />
          </svg>
          <span v-if="one.crowded" class="crowd small">
            <i class="pi pi-users" aria-hidden="true" /> {{ sayPeople(one.crowded) }} more than {{ view.most }}
          </span>
        </button>
      </div>
      <div class="columns two below">
        <section v-if="day" class="panel" aria-labelledby="that-day">
          <h2 id="that-day">
            {{ sayDay(instantOf(day.date, '12:00', zone), zone, true) }}:
            {{ day.people === 0 ? 'nothing' : `${say(day)} ${day.people === 1 ? 'email' : 'emails'}` }}
          </h2>
          <div v-for="slot in day.slots" :key="slot.time" class="slot">
            <strong>{{ slot.time }}</strong>
            <ul>
              <li
                v-for="send in slot.sends" :key="`${send.kind} ${send.ownerId} ${send.itemId}`"><SendSign :kind="send.kind" /> <NuxtLink
                :to="send.to ?? ''">{{ send.title }}</NuxtLink> <span class="second small">{{ send.of }}</span><span
                class="number">{{ say(send) }}</span></li>
            </ul>
          </div>
          <p v-if="!day.slots.length" class="panel-body second">Nothing goes out that day.</p>
        </section>
        <section class="panel" aria-labelledby="crowds">
          <h2 id="crowds">More than {{ view.most }} emails in a day</h2>
          <p v-if="!view.crowds.length" class="panel-body second">Nobody would get more than that on any of these days.</p>
          <p v-for="crowd in view.crowds" :key="`${crowd.personId}/${crowd.date}`" class="row crowd-row">
            <NuxtLink :to="`/subscribers/${crowd.personId}`">{{ crowd.name }}</NuxtLink>
            <span class="second">{{ sayDay(instantOf(crowd.date, '12:00', zone), zone) }}</span>
            <strong>{{ crowd.emails }}</strong>
          </p>
          <p class="panel-body second small">The most one person can get is set in <NuxtLink to="/settings">Settings</NuxtLink>. Anything
            above that waits or is held back.</p>
        </section>
      </div>
      <p class="second small">Days and times are those of {{ sayZone(zone) }}. One post is half an hour.</p>
    </template>
  </div>
</template>

<style scoped>
.explain { margin-bottom: 10px; max-width: 820px; }
.month { display: grid; grid-template-columns: repeat(7, minmax(0, 1fr)); gap: 6px; }
.name { padding-left: 8px; }
.day {
  display: grid; gap: 4px; align-content: start; min-height: 70px; padding: 6px 8px; text-align: left; color: inherit;
  background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 8px; cursor: pointer; font: inherit; min-width: 0;
}
.day:hover { border-color: var(--p-porch-ink-third); }
.day.none { background: transparent; }
.day.here { border-color: var(--p-porch-door); box-shadow: inset 0 0 0 1px var(--p-porch-door); }
.day.now { border-top: 3px solid var(--p-porch-lamp); }
.top { display: flex; justify-content: space-between; gap: 6px; align-items: baseline; flex-wrap: wrap; }
.posts { width: 100%; height: 30px; display: block; border-bottom: 1px solid var(--p-porch-line); }
.posts rect { fill: var(--p-send-course); }
.crowd { color: var(--p-porch-brick); }
.below { margin-top: 14px; }
.slot { display: grid; grid-template-columns: 56px 1fr; gap: 8px; padding: 8px 14px; border-bottom: 1px solid var(--p-porch-line-light); }
.slot ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
.slot li { display: flex; gap: 8px; align-items: baseline; }
.number { margin-left: auto; font-weight: 600; }
.crowd-row { display: flex; gap: 10px; align-items: baseline; }
.crowd-row strong { margin-left: auto; }
/* Seven beside one another would be too narrow to read: a day a line. */
@media (max-width: 760px) {
  .month { grid-template-columns: minmax(0, 1fr); }
  .name { display: none; }
  .day { grid-column-start: 1 !important; min-height: 0; grid-template-columns: minmax(0, 1fr) 96px; align-items: center; }
  .day.none .posts { display: none; }
  .crowd { grid-column: 1 / -1; }
}
</style>
