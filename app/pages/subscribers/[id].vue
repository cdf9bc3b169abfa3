<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from '#imports'
import { sayEvent } from '#core/events'
import { sayHeldBack, TURN_WORDS } from '#core/sending/reasons'
import { saySource } from '#core/people/source'
import { sayDay, sayExactly, sayMoment, sayZone } from '#core/time/say'
import type { EmailOfPerson } from '#core/views/people'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import FactsPanel from '~/components/subscriber/FactsPanel.vue'
import PageHead from '~/components/PageHead.vue'
import SendSign from '~/components/SendSign.vue'
import PurchasesPanel from '~/components/subscriber/PurchasesPanel.vue'
import RecordPanel from '~/components/subscriber/RecordPanel.vue'
import ScoreSum from '~/components/subscriber/ScoreSum.vue'
import TodosOf from '~/components/subscriber/TodosOf.vue'
import StatusChip from '~/components/StatusChip.vue'
import WhyPanel from '~/components/subscriber/WhyPanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is asked for. */
const SentEmailDialog = whenNeeded(() => import('~/components/email/SentEmailDialog.vue'))

const id = Number(useRoute().params.id)
const frame = useFrame()
const zone = computed(() => frame.zone)
/** The email that is shown as they got it. */
const shown = ref<number | null>(null)
const { data: view, problem, load } = useFresh(() => api('GET /subscribers/:id', { at: { id } }))

const COURSE_WORDS = { open: 'inside', finished: 'finished', left: 'left' } as const
const standing = computed(() => {
  if (!view.value) return ''
  const { person, emails } = view.value
  const got = emails.filter(email => email.handedOverAt !== null)
  const opened = got.filter(email => email.openedAt !== null).length
  const clicked = got.filter(email => email.clickedAt !== null).length
  return `Here since ${sayDay(person.createdAt, zone.value, true)}, by ${saySource(person.source)}. ${got.length === 0 ? 'Has been sent nothing yet.' : `Was sent ${saySome(got.length, 'email', 'emails')}, opened ${opened} and clicked in ${clicked}.`}`
})

/** What became of an email, in words. */
function fateOf(email: EmailOfPerson): string {
  switch (email.status) {
    case 'handed over': return `sent ${sayMoment(email.handedOverAt!, zone.value)}`
    case 'held back': return `held back: ${sayHeldBack(email.reason, email.listName)}`
    case 'withdrawn': return `withdrawn: ${sayHeldBack(email.reason, email.listName)}`
    case 'may have arrived': return `may have arrived ${sayMoment(email.handedOverAt!, zone.value)}: the mail server never said`
    case 'failed': return `not sent: ${email.reason}`
    default: return email.status === 'queued' && email.reason === 'resting'
      ? 'waits until their rest ends'
      : email.turn === null
        ? `goes ${sayMoment(email.plannedAt, zone.value)}`
        : `goes ${sayMoment(email.turn.at, zone.value)}: ${TURN_WORDS[email.turn.why]}`
  }
}

const why = ref<string | null>(null)
const known = computed(() => new Map([...view.value?.events ?? [], ...view.value?.causes ?? []].map(event => [event.id, event])))
const causeOf = (causeId: number | null) => causeId === null ? undefined : known.value.get(causeId)
</script>

<template>
  <ProblemNote v-if="problem" :of="problem" />
  <div v-else-if="view">
    <PageHead :title="view.person.firstName || view.person.address" :back="{ to: '/subscribers', name: 'Subscribers' }">
      <template #title>
        {{ view.person.firstName || view.person.address }} <StatusChip :status="view.person.status" class="status" />
      </template>
      {{ standing }}
      <template v-if="frame.mode === 'practice' && view.emails.length" #actions>
        <NuxtLink :to="{ path: '/mailbox', query: { search: view.person.address } }" class="read">Read their emails</NuxtLink>
      </template>
    </PageHead>

    <p v-if="view.unreachableSince !== null" class="note lamp unreachable">Your mail server cannot reach this address: it does not accept
      letters like these before the @. Since {{ sayDay(view.unreachableSince, zone) }}.</p>
    <div class="columns two">
      <div class="stack">
        <FactsPanel v-model="view" :zone="zone" />
        <TodosOf :id="id" :todos="view.todos" @changed="load" />
        <section class="panel" aria-labelledby="courses">
          <h2 id="courses">Courses</h2>
          <p v-for="course in view.courses" :key="`${course.id}${course.joinedAt}`" class="row">
            <NuxtLink v-if="course.isThere" :to="`/courses/${course.id}`"><strong>{{ course.name }}</strong></NuxtLink>
            <strong v-else>{{ course.name }}</strong>,
            {{ COURSE_WORDS[course.status] }}{{ course.endedAt ? ` ${sayDay(course.endedAt, zone)}` : '' }}<br />
            <span class="second small">Joined {{ sayMoment(course.joinedAt, zone) }}.<template v-if="course.nextTitle"> Next:
              {{ course.nextTitle }}, {{ course.nextAt ? sayMoment(course.nextAt, zone) : course.stopped ? 'once you resume the course'
                : 'once it is written' }}.</template></span>
          </p>
          <p v-if="view.courses.length === 0" class="panel-body second">None so far.</p>
        </section>
        <PurchasesPanel :purchases="view.purchases" :no-more="view.noMore" :waits="view.waits" :zone="zone" @changed="load" />
        <section class="panel" aria-labelledby="consent">
          <h2 id="consent">Consent</h2>
          <div v-for="consent in view.consents" :key="consent.at" class="row">
            <p>“{{ consent.wording }}”</p>
            <p class="second small">
              {{ sayExactly(consent.at, zone) }},
              {{ consent.pageName ? `on ${consent.pageName}, version ${consent.pageVersion}` : consent.origin }}{{ consent.ip
                ? `, from ${consent.ip}` : '' }}{{ consent.zone ? `, in ${sayZone(consent.zone)}` : '' }}
            </p>
          </div>
          <p v-if="view.consents.length === 0" class="panel-body second">None on
            record.{{ view.needsConsent ? ' Their country needs it: they are held back everywhere.' : '' }}</p>
        </section>
        <ScoreSum :score="view.score" :zone="zone" />
        <section class="panel" aria-labelledby="segments">
          <h2 id="segments">Segments</h2>
          <p class="panel-body chips">
            <NuxtLink
              v-for="segment in view.segments" :key="segment.id" :to="`/segments/${segment.id}`" class="chip">{{ segment.name }}</NuxtLink>
            <span v-if="view.segments.length === 0" class="second">In none.</span>
          </p>
        </section>
        <RecordPanel v-model="view" :zone="zone" />
      </div>

      <div class="stack">
        <section class="panel" aria-labelledby="emails">
          <h2 id="emails">Emails</h2>
          <p v-for="email in view.emails" :key="email.id" class="row mail">
            <SendSign :kind="email.kind" />
            <span class="cut"><button
              type="button" class="link-button title" title="Why did they, or did they not, get it?"
              @click="why = `${email.kind} ${email.ownerId} ${email.itemId}`">{{ email.title }}</button> <span
                class="second">{{ email.of }}</span></span>
            <button
              v-if="email.handedOverAt !== null" type="button" class="link-button show" :aria-label="`Show ${email.title} as they got it`"
              title="Show it as they got it" @click="shown = email.id"><i class="pi pi-eye" aria-hidden="true" /></button>
            <span class="second small fate">
              {{ fateOf(email) }}<template v-if="email.openedAt">, opened</template><template v-if="email.clickedAt">, clicked</template>
            </span>
          </p>
          <p v-if="view.emails.length === 0" class="panel-body second">None so far.</p>
        </section>
        <SentEmailDialog v-if="shown !== null" :id="shown" :zone="zone" @close="shown = null" />
        <WhyPanel v-model="why" :view="view" @changed="load" />
        <section class="panel" aria-labelledby="history">
          <div class="panel-head"><h2 id="history">History</h2><span class="second small">{{ sayZone(zone) }}</span></div>
          <ol class="history">
            <li v-for="event in view.events" :key="event.id" class="row">
              <span class="second small at">{{ sayExactly(event.at, zone) }}</span>
              <span class="what">
                {{ sayEvent(event) }}<NuxtLink v-if="event.ruleId" :to="`/house-rules/${event.ruleId}`" class="small rule-link">which
                  rule</NuxtLink><span v-if="causeOf(event.causeId)" class="second small because">because:
                  {{ sayEvent(causeOf(event.causeId)!) }}</span>
              </span>
            </li>
          </ol>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.status { font: 400 12.5px/1.6 var(--body); vertical-align: 5px; letter-spacing: 0; }
.read { font-weight: 600; }
.two { grid-template-columns: minmax(0, 1fr) minmax(0, 1.35fr); }
.chips { display: flex; flex-wrap: wrap; gap: 6px; }
.mail { display: grid; grid-template-columns: 10px minmax(0, 1fr) auto 18px; gap: 10px; align-items: baseline; }
.mail .show { grid-column: 4; grid-row: 1; }
.title { padding: 0; min-height: 0; color: inherit; }
.fate { max-width: 300px; text-align: right; }
.history { margin: 0; padding: 0; list-style: none; }
.history .row { display: grid; grid-template-columns: 178px minmax(0, 1fr); gap: 12px; align-items: baseline; padding-block: 7px; }
.at { font-variant-numeric: tabular-nums; }
.because { display: block; }
.rule-link { margin-left: 6px; }
@media (max-width: 760px) {
  .two { grid-template-columns: minmax(0, 1fr); }
  .history .row { grid-template-columns: minmax(0, 1fr); gap: 0; }
  .mail { grid-template-columns: 10px minmax(0, 1fr) 18px; }
  .mail .show { grid-column: 3; }
  .fate { grid-column: 2; text-align: left; max-width: none; }
}
.unreachable { margin-bottom: 12px; }
</style>
