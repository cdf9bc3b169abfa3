<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import { sayEvent } from '#core/events'
import { sayDay, sayLength, sayMoment, sayTime, sayWeekday } from '#core/time/say'
import { localOf } from '#core/time/zone'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayBasis, sayNumber, sayPeople, sayRate, saySome } from '~/words/say'
import { useFrame } from '~/stores/frame'
import FirstStep from '~/components/FirstStep.vue'
import NewCourse from '~/components/course/NewCourse.vue'
import NewPage from '~/components/page/NewPage.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import SendSign from '~/components/SendSign.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { data: today, problem } = useFresh(() => api('GET /today'), () => frame.mode)
const zone = computed(() => frame.zone)
const isToday = (at: number) => localOf(at, zone.value).date === localOf(today.value!.now, zone.value).date

const standing = computed(() => {
  const view = today.value
  if (!view) return ''
  const { figures, goingOut, now } = view
  const arrived = figures === null ? '' : figures.arrivedSinceYesterday === 0
    ? 'Nobody has arrived since yesterday.'
    : `${sayPeople(figures.arrivedSinceYesterday)} arrived since yesterday.`
  if (goingOut === null) return arrived
  const [next] = goingOut
  if (!next) return `${arrived} Nothing waits to be sent.`
  return next.at <= now ? `${arrived} The next email leaves now.` : `${arrived} The next email leaves in ${sayLength(next.at - now)}.`
})

const newPage = ref(false)
/** Put away in this browser: somebody who goes another way is not reminded of it each morning. */
const PUT_AWAY = 'porch-begin-put-away'
const putAway = ref(localStorage.getItem(PUT_AWAY) === frame.mode)
watch(putAway, () => localStorage.setItem(PUT_AWAY, frame.mode))
interface Step { title: string, text: string, done: boolean, to?: string, act?: () => void }
const firstSteps = computed<Step[]>(() => {
  const begin = today.value?.begin
  return begin ? [
    {
      title: 'Say who the emails are from',
      text: 'A name, an address and a postal address, like “Ines of Saltmarsh Bindery”. They stand in every email.', done: begin.sender,
      to: '/settings',
    },
    {
      title: 'Publish an opt-in page',
      text: 'For example “Sheet kit: twelve sheets to print and fold”. People who opt in join a list and get a tag.', done: begin.page,
      ...(frame.frame?.counts.pages ? { to: '/pages' } : { act: () => newPage.value = true })
    },
    {
      title: 'Start a course that begins with that tag',
      text: 'For example three emails: the kit at once, the first fold a day later, the cover on the third day at 08:00.',
      done: begin.course, ...(frame.frame?.counts.courses ? { to: '/courses' } : { act: () => newCourse.value = true })
    },
    {
      title: 'Try it as a visitor',
      text: 'Open your page, opt in, and move the clock at the foot of the screen. Nothing leaves: the emails are in the practice mailbox.',
      done: begin.tried, to: '/pages',
    },
  ] : []
})
const newCourse = ref(false)
</script>

<template>
  <div>
    <PageHead :title="today ? `${sayWeekday(today.now, zone)} on the porch` : 'On the porch'">
      {{ standing }}
      <template #actions>
        <Button label="New course" severity="secondary" @click="newCourse = true" />
        <Button label="New opt-in page" @click="newPage = true" />
      </template>
    </PageHead>
    <ProblemNote :of="problem" />

    <template v-if="today">
      <p v-if="!today.figures" class="note brick">These figures could not be worked out. The log says why.</p>
      <dl v-else class="figures">
        <div>
          <dd><PeopleNumber :people="today.figures.active" :query="{ status: 'active' }" /></dd>
          <dt>active subscribers, +{{ sayNumber(today.figures.arrived28) }} in 28 days</dt>
        </div>
        <div><dd>{{ sayNumber(today.figures.sent28) }}</dd><dt>emails sent in 28 days, without confirmation requests</dt></div>
        <div><dd>{{ sayRate(today.figures.opened28) }}</dd><dt>reader opens, {{ sayBasis(today.figures.opened28) }}</dt></div>
        <div><dd>{{ sayRate(today.figures.clicked28) }}</dd><dt>clicked, {{ sayBasis(today.figures.clicked28) }}</dt></div>
      </dl>

      <div class="columns two">
        <div class="stack">
          <section v-if="today.begin && !putAway" class="panel" aria-labelledby="begin">
            <div class="panel-head">
              <h2 id="begin">Begin here</h2><Button label="Put this away" size="small" text severity="secondary" @click="putAway = true" />
            </div>
            <template v-for="(step, n) in firstSteps" :key="step.title">
              <NuxtLink
                v-if="step.to" :to="step.to" class="row first" :class="{ done: step.done }"><FirstStep :step="step" :n="n + 1" /></NuxtLink>
              <button v-else type="button" class="row first" :class="{ done: step.done }" @click="step.act?.()">
                <FirstStep :step="step" :n="n + 1" />
              </button>
            </template>
          </section>
          <section class="panel" aria-labelledby="going-out">
            <h2 id="going-out">Going out next</h2>
            <NuxtLink
              v-for="send in today.goingOut" :key="`${send.kind} ${send.ownerId} ${send.itemId} ${send.at}`" :to="send.to ?? ''"
              class="row send">
              <span class="when"><span v-if="!isToday(send.at)">{{ sayDay(send.at, zone) }}<br /></span>{{ sayTime(send.at, zone) }}</span>
              <SendSign :kind="send.kind" />
              <span class="what"><strong class="cut">{{ send.title }}</strong><span class="second cut">{{ send.of }}</span></span>
              <span class="number">{{ sayPeople(send.people) }}</span>
            </NuxtLink>
            <p v-if="today.goingOut === null" class="panel-body problem">
              What goes out next could not be worked out. Sending goes on; the log says what is wrong.
            </p>
            <div v-else-if="today.goingOut.length === 0" class="panel-body second">
              <p>Nothing is planned for the coming seven days. Emails leave once someone comes into a course that has been started.</p>
            </div>
          </section>
        </div>

        <div class="stack">
          <section class="panel" aria-labelledby="wants-a-look">
            <h2 id="wants-a-look">Needs attention</h2>
            <NuxtLink v-for="notice in today.needsAttention" :key="notice.title" :to="notice.to" class="row notice" :class="notice.tone">
              <strong>{{ notice.title }}</strong><span class="second small">{{ notice.text }}</span>
            </NuxtLink>
            <p v-if="today.needsAttention.length === 0" class="panel-body second">Nothing needs attention.</p>
          </section>
          <section class="panel" aria-labelledby="just-happened">
            <h2 id="just-happened">Recent activity</h2>
            <p v-for="event in today.justHappened" :key="event.id" class="row happened">
              <span class="said">
                <NuxtLink v-if="event.person" :to="`/subscribers/${event.person.id}`">{{ event.person.name }}</NuxtLink>
                {{ sayEvent(event) }}
              </span>
              <span class="second small when-small">{{ isToday(event.at) ? sayTime(event.at, zone) : sayMoment(event.at, zone) }}</span>
            </p>
            <p v-if="today.justHappened === null" class="panel-body problem">The recent activity could not be worked out. The log says
              why.</p>
            <p v-else-if="today.justHappened.length === 0" class="panel-body second">Nothing
              yet.{{ frame.frame?.counts.pages ? ` ${saySome(frame.frame.counts.pages, 'page waits', 'pages wait')} for visitors.` : '' }}</p>
          </section>
        </div>
      </div>
    </template>

    <NewPage v-model:visible="newPage" />
    <NewCourse v-model:visible="newCourse" />
  </div>
</template>

<style scoped>
.figures {
  display: grid; grid-template-columns: repeat(4, 1fr); gap: 0 24px; margin: 0 0 18px; padding-top: 12px;
  border-top: 2px solid var(--p-porch-ink);
}
.figures div { display: grid; }
.figures dd a { color: inherit; }
.figures dd { margin: 0; font: 650 28px/1.25 var(--heading); letter-spacing: -0.01em; }
.figures dt { color: var(--p-porch-ink-second); font-size: 13.5px; }
.two { grid-template-columns: minmax(0, 1.45fr) minmax(0, 1fr); }
.row { display: block; color: inherit; }
a.row:hover { background: var(--p-porch-rail); }
.send { display: grid; grid-template-columns: 82px 10px minmax(0, 1fr) auto; gap: 0 10px; align-items: baseline; }
button.row {
  width: 100%; border: 0; border-bottom: 1px solid var(--p-porch-line-light); background: none; text-align: left; cursor: pointer;
}
button.row:hover { background: var(--p-porch-rail); }
.first { display: grid; gap: 2px; font: inherit; }

.when { font-variant-numeric: tabular-nums; line-height: 1.35; }
.what { display: grid; }
.notice { display: grid; gap: 1px; }
.notice.trouble strong { color: var(--p-porch-brick); }
.happened { display: flex; justify-content: space-between; gap: 12px; align-items: baseline; padding-block: 8px; }
.said { overflow-wrap: anywhere; min-width: 0; }
.when-small { flex: none; }
@media (max-width: 760px) { .figures { grid-template-columns: 1fr 1fr; gap: 10px 16px; } .two { grid-template-columns: minmax(0, 1fr); } }
</style>
