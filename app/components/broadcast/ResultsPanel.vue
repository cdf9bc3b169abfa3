<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayMoney } from '#core/money/money'
import { HELD_BACK_WORDS, type HeldBackReason } from '#core/sending/reasons'
import { rateOf } from '#core/stats/rate'
import { sayBasis, sayNumber, sayRate } from '#core/stats/say'
import { sayDay } from '#core/time/say'
import type { BroadcastView } from '#core/views/broadcast'
import type { SentNumber } from '#core/views/broadcastResults'
import { api, hrefOf } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import ProblemNote from '~/components/ProblemNote.vue'
import TermTip from '~/components/TermTip.vue'
import { whenNeeded } from '~/components/whenNeeded'
import RateDots from './RateDots.vue'
import ReadingHours from './ReadingHours.vue'
import SharePanel from './SharePanel.vue'
import SplitTable from './SplitTable.vue'

const AgainDialog = whenNeeded(() => import('./AgainDialog.vue'))
const NumberPeople = whenNeeded(() => import('./NumberPeople.vue'))

/** Its results: the answer in words first, then the numbers, each with its people; what cannot be known is said, too. */
const props = defineProps<{ id: number, view: BroadcastView, zone: string }>()
defineEmits<{ changed: [view: BroadcastView] }>()
const sending = ref(false)
const { data: results, problem } = useFresh(() => api('GET /broadcasts/:id/results', { at: { id: props.id } }))
const asked = ref<{ key: string, people: number, words: string } | null>(null)
const of = (number: SentNumber) => rateOf(number.people, results.value!.sent.people)

interface Shown { number: SentNumber, name: string, isRate: boolean, grey?: boolean, /** More of it. */ title?: string }
const rows = computed<Shown[]>(() => {
  const now = results.value
  if (!now) return []
  return [
    { number: now.sent, name: 'sent', isRate: false }, { number: now.clicked, name: 'clicked', isRate: true },
    { number: now.opened, name: 'reader opens', isRate: true },
    { number: now.uncertain, name: 'uncertain opens only', isRate: true, grey: true },
    { number: now.notOpened, name: 'neither opened nor clicked', isRate: true, grey: true },
    { number: now.notClicked, name: 'not clicked', isRate: true, grey: true }, { number: now.bought, name: 'bought', isRate: true },
    { number: now.left, name: 'unsubscribed', isRate: true, grey: true },
    { number: now.complained, name: 'complained', isRate: true, grey: true },
    ...now.refused.map(one => ({ number: one, name: one.says, title: one.said, isRate: false, grey: true })),
    ...now.held.map(one => ({
      number: one, name: `held back: ${HELD_BACK_WORDS[one.reason as HeldBackReason] ?? one.reason}`, isRate: false, grey: true,
    })),
  ]
})
const most = computed(() => {
  const now = results.value
  if (!now) return 1
  const all = [...now.past, { opened: now.opened.people, clicked: now.clicked.people, sent: now.sent.people }]
    .filter(({ sent }) => sent > 0)
  return Math.max(0.1, ...all.flatMap(({ opened, clicked, sent }) => [rateOf(opened, sent).high!, rateOf(clicked, sent).high!]))
})
const rates = (clicked: number, opened: number, sent: number) => [
  { name: 'clicks', of: rateOf(clicked, sent), filled: true }, { name: 'reader opens', of: rateOf(opened, sent), filled: false },
]
const links = computed(() => (results.value?.links ?? []).toSorted((a, b) => b.people - a.people))
</script>

<template>
  <div class="fields">
    <ProblemNote :of="problem" />
    <template v-if="results">
      <section class="answer">
        <div>
          <h2>{{ results.says[0] }}</h2>
          <p v-for="line in results.says.slice(1)" :key="line">{{ line }}</p>
          <p v-for="line in results.cannotSay" :key="line" class="second small">{{ line }}</p>
        </div>
        <Button v-if="results.sent.people > 0" label="Send it again to some" severity="secondary" @click="sending = true" />
      </section>
      <slot />
      <div class="two-columns">
        <section class="panel" aria-labelledby="in-numbers">
          <h2 id="in-numbers">In numbers</h2>
          <ul class="numbers">
            <li v-for="row in rows" :key="row.number.key" :class="{ grey: row.grey, none: row.number.people === 0 }">
              <button
                v-if="row.number.people > 0" type="button" class="link-button n" @click="asked = { ...row.number, words: row.name }">
                {{ sayNumber(row.number.people) }}</button>
              <span v-else class="n">0</span>
              <span :title="row.title">{{ row.name }}<span v-if="row.title" class="second small cut said">{{ row.title }}</span></span>
              <span v-if="row.isRate" class="rate" :title="sayBasis(of(row.number))">{{ sayRate(of(row.number)) }}</span>
            </li>
            <li v-if="results.money.length"><span class="n">{{ results.money.map(sayMoney).join(', ') }}</span>
              <span>paid after a click in it, within {{ results.clickDays }} days</span></li>
          </ul>
        </section>
        <section class="panel" aria-labelledby="when-read">
          <h2 id="when-read">When it was opened and clicked first</h2>
          <div class="panel-body">
            <ReadingHours v-if="results.hours.length" :hours="results.hours" :from="view.dueAt!" :zone="zone" />
            <p v-else class="second small">Nobody has opened it yet.</p>
          </div>
          <h2>Against your earlier broadcasts</h2>
          <ul class="past">
            <li>
              <span class="cut"><strong>This one</strong></span>
              <RateDots
                v-if="results.sent.people > 0" :most="most"
                :rates="rates(results.clicked.people, results.opened.people, results.sent.people)" />
            </li>
            <li v-for="one in results.past.slice(0, 5)" :key="one.id">
              <span class="cut"><NuxtLink :to="`/broadcasts/${one.id}`">{{ one.name }}</NuxtLink>
                <span class="second small sub">{{ sayDay(one.at, zone) }}</span></span>
              <RateDots :rates="rates(one.clicked, one.opened, one.sent)" :most="most" />
            </li>
          </ul>
          <p class="row second small">● clicks and ○ <TermTip of="reader-open">reader opens</TermTip>, of emails sent, with their likely
            range.</p>
        </section>
      </div>
      <section v-if="links.length" class="panel" aria-labelledby="click-map">
        <h2 id="click-map">Where they clicked</h2>
        <div class="map">
          <iframe :src="hrefOf('GET /broadcasts/:id/click-map', { at: { id } })" title="The email with how many followed each link" />
          <ul class="links">
            <li v-for="link in links" :key="link.n">
              <button
                v-if="link.people > 0" type="button" class="link-button n"
                @click="asked = { key: link.key, people: link.people, words: `followed “${link.label}”` }">
                {{ sayNumber(link.people) }}</button>
              <span v-else class="n">0</span>
              <span class="where">
                <strong>{{ link.label }}</strong> <span class="second small">{{ sayRate(of(link)) }}, {{ sayNumber(link.clicks) }}
                  clicks</span>
                <NuxtLink :to="`/links/${link.linkId}`" class="small sub cut">{{ link.now }}</NuxtLink>
                <span v-if="link.now !== link.url" class="second small sub">It led to {{ link.url }} as it was sent.</span>
              </span>
            </li>
            <li class="second small">A wrong address can be corrected: open the link. Readers who follow it then get to the new one.</li>
          </ul>
        </div>
      </section>
      <SplitTable v-if="results.sent.people > 0" :id="id" :name="view.name" :zone="zone" />
      <SharePanel :id="id" :view="view" @changed="now => $emit('changed', now)" />
      <NumberPeople
        v-if="asked" :id="id" :name="view.name" :number="asked.key" :people="asked.people" :words="asked.words" :zone="zone"
        @close="asked = null" />
      <AgainDialog
        v-if="sending" v-model:visible="sending" :id="id" :draft="view.scheduled!" :results="results"
        @done="now => $emit('changed', now)" />
    </template>
  </div>
</template>

<style scoped>
.answer { display: flex; justify-content: space-between; gap: 24px; align-items: start; }
.answer h2 { font: 650 20px/1.35 var(--heading); }
.two-columns { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr); gap: 16px; align-items: start; }
ul { list-style: none; margin: 0; padding: 0; }
.numbers li, .links li {
  display: flex; align-items: baseline; gap: 10px; padding: 3px 14px; border-bottom: 1px solid var(--p-porch-line-light);
}
.numbers li:last-child { border-bottom: 0; }
.n { min-width: 56px; text-align: right; font-weight: 650; font-variant-numeric: tabular-nums; flex: none; }
.grey { color: var(--p-porch-ink-second); }
.rate { margin-left: auto; font-variant-numeric: tabular-nums; }
.past li { display: flex; justify-content: space-between; gap: 12px; align-items: center; padding: 4px 14px; }
.sub { display: block; }
.said { display: block; max-width: 260px; }
.panel > h2 + .panel-body + h2 { border-top: 1px solid var(--p-porch-line-light); }
.map { display: grid; grid-template-columns: minmax(0, 1fr) 380px; }
.map iframe { width: 100%; height: 460px; border: 0; border-right: 1px solid var(--p-porch-line-light); background: #fff; }
.where { min-width: 0; }
@media (max-width: 1000px) { .two-columns, .map { grid-template-columns: minmax(0, 1fr); } .answer { display: grid; } }
</style>
