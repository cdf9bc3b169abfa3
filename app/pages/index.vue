<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayEvent } from '#core/events'
import { sayLength, sayMoment, sayTime, sayWeekday } from '#core/time/say'
import { localOf } from '#core/time/zone'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayBasis, sayChange, sayNumber, sayPeople, sayRate, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import HeldSwitch from '~/components/HeldSwitch.vue'
import PageHead from '~/components/PageHead.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import TermTip from '~/components/TermTip.vue'
import AttentionList from '~/components/today/AttentionList.vue'
import GoingOut from '~/components/today/GoingOut.vue'
import GrowthChart from '~/components/today/GrowthChart.vue'
import SendingChart from '~/components/today/SendingChart.vue'
import SetupStairs from '~/components/today/SetupStairs.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const NewCourse = whenNeeded(() => import('~/components/course/NewCourse.vue'))
const NewPage = whenNeeded(() => import('~/components/page/NewPage.vue'))

const frame = useFrame()
const { data: today, problem, load } = useFresh(() => api('GET /today'), () => frame.mode)
const zone = computed(() => frame.zone)
const isToday = (at: number) => localOf(at, zone.value).date === localOf(today.value!.now, zone.value).date

const standing = computed(() => {
  const view = today.value
  if (!view) return ''
  const { figures, goingOut, needsAttention, now } = view
  const first = needsAttention.find(({ by }) => by !== undefined && by > now)
  const within = first ? `, the first within ${sayLength(first.by! - now)}` : ''
  const needs = needsAttention.length === 0
    ? 'Nothing needs you.'
    : `${saySome(needsAttention.length, 'thing needs you', 'things need you')}${within}.`
  const arrived = figures === null ? '' : figures.arrivedSinceYesterday === 0
    ? 'Nobody has arrived since yesterday.'
    : `${sayPeople(figures.arrivedSinceYesterday)} arrived since yesterday.`
  const next = goingOut?.[0]
  const out = goingOut === null ? '' : !next ? 'Nothing waits to be sent.' : next.at <= now
    ? 'The next email leaves now.' : `The next email leaves in ${sayLength(next.at - now)}.`
  return [needs, arrived, out].filter(Boolean).join(' ')
})

const [newPage, newCourse] = [ref(false), ref(false)]
const { problem: refused, attempt } = useAttempt()
/** It was hidden just now, which can be taken back. */
const justHidden = ref(false)
const hideSetup = (hidden: boolean) => attempt(async () => {
  await api('PUT /setup', { body: { hidden } })
  await load()
  justHidden.value = hidden
})
</script>

<template>
  <div>
    <PageHead :title="today ? `${sayWeekday(today.now, zone)} on the porch` : 'On the porch'" how="today">
      {{ standing }}
      <template #actions>
        <Button label="New course" severity="secondary" @click="newCourse = true" />
        <Button label="New opt-in page" @click="newPage = true" />
      </template>
    </PageHead>
    <ProblemNote :of="problem ?? refused" />

    <template v-if="today">
      <HeldSwitch v-if="today.held" :held="today.held" :zone="zone" @done="load" />
      <SetupStairs v-if="today.setup" :steps="today.setup" @hide="hideSetup(true)" />
      <p v-else-if="justHidden" class="note hidden-note">The first steps are hidden.
        <button type="button" class="link-button" @click="hideSetup(false)">Show them again</button></p>
      <div class="morning">
        <section aria-labelledby="needs-attention">
          <header>
            <h2 id="needs-attention">Needs attention</h2>
            <span v-if="today.needsAttention.length > 1" class="second small">most urgent first</span>
          </header>
          <AttentionList :notices="today.needsAttention" :now="today.now" :zone="zone" />
        </section>
        <section aria-labelledby="going-out">
          <header>
            <h2 id="going-out">Going out next</h2>
            <NuxtLink to="/calendar" class="small">Coming days</NuxtLink>
            <span class="second small last">people</span>
          </header>
          <p v-if="today.goingOut === null" class="problem">
            What goes out next could not be worked out. Sending continues. The log says what is wrong.
          </p>
          <p v-else-if="today.goingOut.length === 0" class="second">Nothing is planned for the next seven days. Emails leave once someone
            joins a course that has been started.</p>
          <GoingOut v-else :sends="today.goingOut" :now="today.now" :zone="zone" />
          <HeldSwitch v-if="!today.held" :held="null" :zone="zone" @done="load" />
        </section>
      </div>

      <div class="month">
        <p v-if="!today.figures" class="note brick wide">These figures could not be worked out. The log says why.</p>
        <template v-else>
          <section aria-labelledby="growth">
            <h2 id="growth">Growth in 28 days</h2>
            <dl>
              <div>
                <dd>{{ sayChange(today.figures.arrived28 - today.figures.left28) }}</dd>
                <dt>{{ sayNumber(today.figures.arrived28) }} arrived, {{ sayNumber(today.figures.left28) }} left</dt>
              </div>
              <div>
                <dd><PeopleNumber :people="today.figures.active" :query="{ status: 'active' }" /></dd><dt>active subscribers</dt>
              </div>
            </dl>
            <GrowthChart :days="today.figures.days" :zone="zone" />
          </section>
          <section aria-labelledby="sending">
            <h2 id="sending">Sending in 28 days</h2>
            <dl>
              <div>
                <dd>{{ sayRate(today.figures.opened28) }}</dd>
                <dt>
                  <span class="ring" aria-hidden="true" /> <TermTip of="reader-open">reader opens</TermTip>,
                  {{ sayBasis(today.figures.opened28) }}
                </dt>
              </div>
              <div>
                <dd>{{ sayRate(today.figures.clicked28) }}</dd>
                <dt><span class="dot" aria-hidden="true" /> clicked, {{ sayNumber(today.figures.clicked28.part) }}</dt>
              </div>
            </dl>
            <SendingChart :days="today.figures.days" :zone="zone" />
          </section>
        </template>
        <section aria-labelledby="just-happened">
          <h2 id="just-happened">Recent activity</h2>
          <p v-for="event in today.justHappened" :key="event.id" class="happened">
            <span class="said">
              <NuxtLink v-if="event.person" :to="`/subscribers/${event.person.id}`">{{ event.person.name }}</NuxtLink>
              {{ sayEvent(event) }}
            </span>
            <span class="second small when-small">{{ isToday(event.at) ? sayTime(event.at, zone) : sayMoment(event.at, zone) }}</span>
          </p>
          <p v-if="today.justHappened === null" class="problem">The recent activity could not be worked out. The log says why.</p>
          <p v-else-if="today.justHappened.length === 0" class="second">Nothing
            yet.{{ frame.frame?.counts.pages ? ` ${saySome(frame.frame.counts.pages, 'page waits', 'pages wait')} for visitors.` : '' }}</p>
        </section>
      </div>
    </template>

    <NewPage v-if="newPage" v-model:visible="newPage" />
    <NewCourse v-if="newCourse" v-model:visible="newCourse" />
  </div>
</template>

<style scoped>
.morning, .month { display: grid; gap: 24px; align-items: start; }
.morning { grid-template-columns: minmax(0, 1.85fr) minmax(0, 1fr); }
.morning header { display: flex; align-items: baseline; gap: 10px; padding-bottom: 8px; }
.morning header > :last-child:not(h2) { margin-left: auto; }
.month {
  grid-template-columns: repeat(2, minmax(0, 0.925fr)) minmax(0, 1fr); margin-top: 22px; padding-top: 12px;
  border-top: 2px solid var(--p-porch-ink);
}
.hidden-note { margin-bottom: 14px; }
.wide { grid-column: span 2; }
dl { display: grid; grid-template-columns: 1.5fr 1fr; gap: 0 12px; margin: 2px 0 8px; }
dd { margin: 0; font: 650 24px/1.3 var(--heading); letter-spacing: -0.01em; }
dd a { color: inherit; }
dt { color: var(--p-porch-ink-second); font-size: 12.5px; }
.ring, .dot { display: inline-block; width: 9px; height: 9px; border-radius: 50%; border: 2px solid var(--p-porch-ink-third); }
.dot { border-color: var(--p-porch-door); background: var(--p-porch-door); }
.happened {
  display: flex; justify-content: space-between; gap: 12px; align-items: baseline; padding: 6px 0;
  border-bottom: 1px solid var(--p-porch-line);
}
.happened:last-child { border-bottom: 0; }
.said { overflow-wrap: anywhere; min-width: 0; }
.when-small { flex: none; }
@media (max-width: 1000px) { .morning, .month { grid-template-columns: minmax(0, 1fr); } }
</style>
