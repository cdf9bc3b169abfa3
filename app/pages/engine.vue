<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import { sayLength, sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import HeldSwitch from '~/components/HeldSwitch.vue'
import PageHead from '~/components/PageHead.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: view, problem: loading, load } = useFresh(() => api('GET /engine'), () => frame.mode)
const standing = computed(() => {
  if (!view.value) return ''
  const { seenMsAgo, work } = view.value
  const due = work.reduce((sum, one) => sum + one.due, 0)
  const alive = seenMsAgo === null
    ? 'The engine has not been seen yet.'
    : seenMsAgo < 10_000 ? 'The engine is at work.' : `The engine was last seen ${sayLength(seenMsAgo)} ago.`
  const left = `${saySome(view.value.sentLastHour, 'email', 'emails')} left in the last hour.`
  return `${alive} ${due === 0 ? 'Everything due is done.' : `${saySome(due, 'thing is', 'things are')} due and not done yet.`} ${left}`
})
const WORK: PlainColumn[] = [
  { key: 'name', head: 'Work' }, { key: 'due', head: 'Due and not done', class: 'number' }, { key: 'late', head: 'The oldest is late by' },
  { key: 'next', head: 'Next' },
]
const FAILED: PlainColumn[] = [
  { key: 'to', head: 'To' }, { key: 'title', head: 'Email' }, { key: 'planned', head: 'Planned for' }, { key: 'why', head: 'Why' },
  { key: 'again', head: '' },
]
const { busy, problem, attempt } = useAttempt()
const again = (outboxId: number | null) => attempt(async () => {
  await api('POST /engine/again', { body: { outboxId } })
  await load()
})
</script>

<template>
  <div>
    <PageHead title="Engine room" how="engine-room">{{ standing }}</PageHead>
    <ProblemNote :of="loading" />
    <template v-if="view">
      <HeldSwitch :held="view.held" :zone="zone" @done="load" />
      <p v-if="view.carrier !== 'ready'" class="note brick">
        {{ view.carrier === 'stopped'
          ? 'Sending has stopped'
          : 'The mail server cannot be reached right now. It is tried again automatically' }}: {{ view.carrierReason }}
        <NuxtLink to="/settings">Settings</NuxtLink>
      </p>
      <p v-for="course in view.moving" :key="course" class="note">People in {{ course }} are being moved to its new version, in batches.
        Nobody gets anything before they are moved.</p>
      <p v-for="task in view.tasks" :key="task.id" class="note">
        {{ task.title }}: {{ sayNumber(task.done) }} of {{ sayNumber(task.total) }}.
        <NuxtLink to="/subscribers/done">Work done</NuxtLink>
      </p>
      <section class="panel" aria-labelledby="work-due">
        <h2 id="work-due">Scheduled work</h2>
        <PlainTable :rows="view.work" :row-key="({ kind }) => kind" :columns="WORK">
          <template #name="{ row }">{{ row.name }}</template>
          <template #due="{ row }"><strong v-if="row.due">{{ sayNumber(row.due) }}</strong><span v-else class="second">0</span></template>
          <template #late="{ row }">
            {{ row.oldestAt === null ? '' : view!.now - row.oldestAt < 1000 ? 'less than a second' : sayLength(view!.now - row.oldestAt) }}
          </template>
          <template #next="{ row }">{{ row.nextAt === null ? 'none' : sayMoment(row.nextAt, zone) }}</template>
        </PlainTable>
      </section>
      <section class="panel given" aria-labelledby="given-up">
        <div class="panel-head head">
          <h2 id="given-up">Emails that could not be sent</h2>
          <Button v-if="view.givenUpCount > 1" :label="`Try all ${sayNumber(view.givenUpCount)} again`" severity="secondary" size="small"
                  :loading="busy" @click="again(null)" />
        </div>
        <ProblemNote :of="problem" />
        <p class="panel-body second">
          {{ view.waitingAgain ? `${saySome(view.waitingAgain, 'email waits', 'emails wait')} to be tried again. ` : '' }}{{ view.givenUpCount === 0 ? 'No failed emails.' : `${sayNumber(view.givenUpCount)} failed: refused for good, or tried for three days. Bounced addresses are not counted.` }}
        </p>
        <PlainTable v-if="view.givenUp.length" :rows="view.givenUp" :row-key="({ outboxId }) => outboxId" :columns="FAILED">
          <template #to="{ row }"><NuxtLink :to="`/subscribers/${row.personId}`">{{ row.name }}</NuxtLink></template>
          <template #title="{ row }">{{ row.title }}</template>
          <template #planned="{ row }">{{ sayMoment(row.plannedAt, zone) }}</template>
          <template #why="{ row }">{{ row.reason }}</template>
          <template #again="{ row }">
            <Button
              label="Try again" text size="small" :aria-label="`Try again to send ${row.title} to ${row.name}`" :disabled="busy"
              @click="again(row.outboxId)" />
          </template>
        </PlainTable>
      </section>
    </template>
  </div>
</template>

<style scoped>
.given { margin-top: 16px; }
.head { display: flex; align-items: center; justify-content: space-between; }
</style>
