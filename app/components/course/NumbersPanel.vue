<script setup lang="ts">
import { computed, ref } from 'vue'
import { rateOf } from '#core/stats/rate'
import { sayDay } from '#core/time/say'
import { DAY } from '#core/time/zone'
import type { StepNumber, CourseView } from '#core/views/course'
import type { CohortRow, WhoAsked } from '#core/views/courseNumbers'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayBasis, sayNumber, sayRate } from '#core/stats/say'
import FlowChart from './FlowChart.vue'
import WhoPanel from './WhoPanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What came of a course: each email's numbers, the way of people, the weeks in which they joined. */
const props = defineProps<{ course: CourseView, zone: string }>()
const { data: view, problem } = useFresh(() => api('GET /courses/:id/numbers', { at: { id: props.course.id } }))
const asked = ref<{ asked: WhoAsked, words: string } | null>(null)
const numbers = (stepId: string) => props.course.numbers.find(row => row.stepId === stepId)
const RATES = [['opened', 'reader opens'], ['clicked', 'clicked'], ['unsubscribed', 'unsubscribed']] as const
const people = (stepId: string, number: StepNumber) => ({ path: '/subscribers', query: { course: props.course.id, step: stepId, number } })
const emails = computed(() => view.value?.emails.filter(({ gone }) => !gone) ?? [])
const cohorts = computed(() => view.value?.cohorts ?? [])
const week = ({ from, to }: CohortRow) => `${sayDay(from, props.zone)} to ${sayDay(to - DAY / 2, props.zone)}`
const boughtAfter = ({ stepId, title }: { stepId: string, title: string }) =>
  asked.value = { asked: { bought: stepId, clickMs: view.value!.clickDays * DAY }, words: `Bought after “${title}”` }
const OF_WEEK = [['inside', ', inside now'], ['finished', ', finished'], ['left', ', left'], ['bought', ', bought since']] as const
const ofWeek = (row: CohortRow, is: 'joined' | 'inside' | 'finished' | 'left' | 'bought', words: string) =>
  asked.value = { asked: { week: { from: row.from, to: row.to }, is }, words: `Joined ${week(row)}${words}` }
</script>

<template>
  <div v-if="view" class="fields">
    <section class="panel" aria-labelledby="way-of-people">
      <h2 id="way-of-people">How people move through it</h2>
      <div class="panel-body"><FlowChart :view="view" @who="(after, end, words) => asked = { asked: { after, end }, words }" /></div>
    </section>
    <section class="panel" aria-labelledby="per-email">
      <h2 id="per-email">Email by email</h2>
      <div class="wide" tabindex="0" role="region" aria-label="Numbers of each email">
        <table class="figures-table">
          <thead>
            <tr>
              <th>Email</th>
              <th class="number">Waiting</th>
              <th class="number">Sent</th>
              <th v-for="[key, name] in RATES" :key="key" class="number">{{ name }}</th>
              <th class="number">Bought after it</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="email in view.emails" :key="email.stepId">
              <td>{{ email.title }}<span v-if="email.gone" class="second small"> (removed)</span></td>
              <td class="number">
                <NuxtLink v-if="numbers(email.stepId)?.waiting" :to="people(email.stepId, 'waiting')">
                  {{ sayNumber(numbers(email.stepId)!.waiting) }}
                </NuxtLink>
                <span v-else class="second">0</span>
              </td>
              <td class="number">
                <NuxtLink v-if="numbers(email.stepId)?.sent" :to="people(email.stepId, 'sent')">
                  {{ sayNumber(numbers(email.stepId)!.sent) }}
                </NuxtLink>
                <span v-else class="second">0</span>
              </td>
              <td v-for="[key] in RATES" :key="key" class="number">
                <template v-if="numbers(email.stepId)?.sent">
                  <NuxtLink v-if="numbers(email.stepId)![key]" :to="people(email.stepId, key)">
                    {{ sayRate(rateOf(numbers(email.stepId)![key], numbers(email.stepId)!.sent)) }}
                  </NuxtLink>
                  <span v-else>{{ sayRate(rateOf(0, numbers(email.stepId)!.sent)) }}</span>
                  <span class="second small basis">{{ sayBasis(rateOf(numbers(email.stepId)![key], numbers(email.stepId)!.sent)) }}</span>
                </template>
              </td>
              <td class="number">
                <button
                  v-if="email.bought" type="button" class="link-button" @click="boughtAfter(email)">
                  {{ sayNumber(email.bought) }}
                </button>
                <span v-else class="second">0</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="panel-body second small">Bought: people who bought something within {{ view.clickDays }} days of clicking a link in this
        email, with no later click in another email.</p>
    </section>
    <section class="panel" aria-labelledby="by-week">
      <h2 id="by-week">By the week in which they joined</h2>
      <p v-if="!cohorts.length" class="panel-body second">Nobody has joined in the last twelve weeks.</p>
      <div v-else class="wide" tabindex="0" role="region" aria-label="By joining week">
        <table class="figures-table">
          <thead>
            <tr>
              <th>Joined</th>
              <th class="number">People</th>
              <th v-for="email in emails" :key="email.stepId" class="number narrow">{{ email.title }}</th>
              <th class="number">Inside</th>
              <th class="number">Finished</th>
              <th class="number">Left</th>
              <th class="number">Bought since</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in cohorts" :key="row.from">
              <td>{{ week(row) }}</td>
              <td class="number">
                <button type="button" class="link-button" @click="ofWeek(row, 'joined', '')">{{ sayNumber(row.joined) }}</button>
              </td>
              <td
                v-for="email in emails" :key="email.stepId" class="number"
                :style="{ '--share': row.joined ? (row.sent[email.stepId] ?? 0) / row.joined : 0 }"
                :class="{ share: row.sent[email.stepId] }"
                :title="`${row.sent[email.stepId] ?? 0} of ${row.joined} were sent it`">
                {{ row.sent[email.stepId] ?? '' }}
              </td>
              <td
                v-for="[is, words] in OF_WEEK" :key="is" class="number">
                <button v-if="row[is]" type="button" class="link-button" @click="ofWeek(row, is, words)">{{ sayNumber(row[is]) }}</button>
                <span v-else class="second">0</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <WhoPanel v-if="asked" :course-id="course.id" :asked="asked.asked" :words="asked.words" :zone="zone" @close="asked = null" />
  </div>
  <ProblemNote v-else :of="problem" />
</template>

<style scoped>
.wide { overflow-x: auto; }
.figures-table { width: 100%; border-collapse: collapse; font-size: 13.5px; }
.figures-table th {
  text-align: left; font-weight: 400; color: var(--p-porch-ink-second); padding: 8px 12px;
  border-bottom: 1px solid var(--p-porch-line-light); vertical-align: bottom;
}
.figures-table td { padding: 7px 12px; border-bottom: 1px solid var(--p-porch-line-light); vertical-align: baseline; }
.figures-table .number { text-align: right; }
.narrow { max-width: 110px; }
.basis { display: block; }
.share { background: color-mix(in srgb, var(--p-send-course) calc(var(--share) * 26%), transparent); }
</style>
