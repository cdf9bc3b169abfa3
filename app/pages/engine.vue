<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { sayLength, sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { sayNumber, saySome } from '~/words/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
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
      <p v-if="view.carrier !== 'ready'" class="note brick">
        {{ view.carrier === 'stopped' ? 'Sending has stopped' : 'The mail server cannot be reached just now; it is tried again by itself' }}: {{ view.carrierReason }}
        <NuxtLink to="/settings">Settings</NuxtLink>
      </p>
      <p v-for="course in view.moving" :key="course" class="note">People in {{ course }} are being moved to its new version, bit by bit.
        Nothing is done to anybody before they are.</p>
      <p v-for="task in view.tasks" :key="task.id" class="note">
        {{ task.title }}: {{ sayNumber(task.done) }} of {{ sayNumber(task.total) }}.
        <NuxtLink to="/subscribers/done">What was done</NuxtLink>
      </p>
      <section class="panel" aria-labelledby="work-due">
        <h2 id="work-due">What waits for its time</h2>
        <DataTable :value="view.work" data-key="kind" size="small">
          <Column header="Work"><template #body="{ data }">{{ data.name }}</template></Column>
          <Column header="Due and not done" header-class="number" body-class="number">
            <template #body="{ data }">
              <strong v-if="data.due">{{ sayNumber(data.due) }}</strong>
              <span v-else class="second">0</span>
            </template>
          </Column>
          <Column header="The oldest is late by">
            <template #body="{ data }">
              {{ data.oldestAt === null ? '' : view!.now - data.oldestAt < 1000 ? 'less than a second' : sayLength(view!.now - data.oldestAt) }}
            </template>
          </Column>
          <Column header="The next comes">
            <template #body="{ data }">{{ data.nextAt === null ? 'none waits' : sayMoment(data.nextAt, zone) }}</template>
          </Column>
        </DataTable>
      </section>
      <section class="panel given" aria-labelledby="given-up">
        <div class="panel-head head">
          <h2 id="given-up">Emails that could not be sent</h2>
          <Button v-if="view.givenUpCount > 1" :label="`Try all ${sayNumber(view.givenUpCount)} again`" severity="secondary" size="small"
                  :loading="busy" @click="again(null)" />
        </div>
        <ProblemNote :of="problem" />
        <p class="panel-body second">
          {{ view.waitingAgain ? `${saySome(view.waitingAgain, 'email waits', 'emails wait')} for another try by itself. ` : '' }}{{ view.givenUpCount === 0 ? 'None was given up.' : `${saySome(view.givenUpCount, 'was', 'were')} given up: refused for good, or tried for three days. Addresses that take no mail are not among them.` }}
        </p>
        <DataTable v-if="view.givenUp.length" :value="view.givenUp" data-key="outboxId" size="small">
          <Column header="To">
            <template #body="{ data }"><NuxtLink :to="`/subscribers/${data.personId}`">{{ data.name }}</NuxtLink></template>
          </Column>
          <Column header="Email" field="title" />
          <Column header="Planned for"><template #body="{ data }">{{ sayMoment(data.plannedAt, zone) }}</template></Column>
          <Column header="Why" field="reason" />
          <Column header="Again">
            <template #body="{ data }">
              <Button
                label="Try again" text size="small" :aria-label="`Try again to send ${data.title} to ${data.name}`" :disabled="busy"
                @click="again(data.outboxId)" />
            </template>
          </Column>
        </DataTable>
      </section>
    </template>
  </div>
</template>

<style scoped>
.given { margin-top: 16px; }
.head { display: flex; align-items: center; justify-content: space-between; }
</style>
