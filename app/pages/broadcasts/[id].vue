<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { sendOfBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import { sayPeople } from '#core/stats/say'
import { whenAgain } from '#core/broadcast/again'
import { sayDate, sayMoment, sayZone } from '#core/time/say'
import type { BroadcastState } from '#core/views/broadcast'
import { api, hrefOf } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { useAttempt } from '~/composables/useAttempt'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { provideParts } from '~/composables/useParts'
import { useReach } from '~/composables/useReach'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import AgainColumn from '~/components/broadcast/AgainColumn.vue'
import AgainList from '~/components/broadcast/AgainList.vue'
import CopyLinkDialog from '~/components/broadcast/CopyLinkDialog.vue'
import GuardsColumn from '~/components/broadcast/GuardsColumn.vue'
import HoursChart from '~/components/broadcast/HoursChart.vue'
import ProgressPanel from '~/components/broadcast/ProgressPanel.vue'
import ReachPanel from '~/components/broadcast/ReachPanel.vue'
import ResultsPanel from '~/components/broadcast/ResultsPanel.vue'
import SameDay from '~/components/broadcast/SameDay.vue'
import SendSill from '~/components/broadcast/SendSill.vue'
import SentEmail from '~/components/broadcast/SentEmail.vue'
import StoryField from '~/components/broadcast/StoryField.vue'
import WarmUpNote from '~/components/broadcast/WarmUpNote.vue'
import WhenColumn from '~/components/broadcast/WhenColumn.vue'
import EmailDesk from '~/components/email/EmailDesk.vue'
import PageHead from '~/components/PageHead.vue'
import PartTabs from '~/components/PartTabs.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import SaveNote from '~/components/SaveNote.vue'
import SelectField from '~/components/SelectField.vue'
import ThingActions from '~/components/ThingActions.vue'
import { whenNeeded } from '~/components/whenNeeded'

const AudienceDialog = whenNeeded(() => import('~/components/broadcast/AudienceDialog.vue'))

/** One broadcast: who gets it and when, its email, and its sending. */
const id = Number(useRoute().params.id)
const frame = useFrame()
const zone = computed(() => frame.zone)
const { values, set } = useAddress({ part: '' })
const { tags, lists } = useMarks()
const { parts, problem: partsProblem } = provideParts()
const { data: view, problem: notThere, load } = useFresh(() => api('GET /broadcasts/:id', { at: { id } }))
const typed = ref<BroadcastDraft | null>(null)
const saving = useDraft(typed, async (body, ifMatch) => {
  const now = await api('PUT /broadcasts/:id', { at: { id }, body, ifMatch })
  view.value = now
  return now.revision
})
watch(view, (first) => {
  if (first === null || typed.value) return
  typed.value = first.draft
  saving.revision.value = first.revision
})
const { state, problem: notSaved, flush } = saving
const changes = computed(() => view.value?.state === 'draft' || view.value?.state === 'scheduled')
const isGone = computed(() => view.value !== null && !changes.value)
/** What is looked at: as it is written, or as it was sent. */
const draft = computed<BroadcastDraft>({
  get: () => isGone.value ? view.value!.scheduled ?? typed.value! : typed.value!,
  set: (next) => {
    if (changes.value) typed.value = next
  },
})
const put = (change: Partial<BroadcastDraft>) => draft.value = { ...draft.value, ...change }
const { reach, problem: notCounted, counting } = useReach(id, () => changes.value ? typed.value : null)
const part = computed(() => values.value.part || 'plan')
const PARTS = computed(() => [{ value: 'plan', name: changes.value ? 'Who and when' : 'Results' }, { value: 'email', name: 'Email' }])
const problemAt = (field: string) => view.value?.missing.find(one => one.field === field)?.problem ?? null
const wanting = (of: string) => (view.value?.missing ?? []).some(({ field }) => (field === 'content') === (of === 'email'))
const listName = computed(() => lists.value.find(one => one.id === draft.value.listId)?.name)
const standing = computed(() => {
  const now = view.value!
  const list = listName.value ? ` to the list “${listName.value}”` : ''
  const at = now.dueAt === null ? '' : sayMoment(now.dueAt, zone.value)
  const went = sayPeople(now.progress?.handedOver ?? 0)
  const STANDING: Record<BroadcastState, string> = {
    draft: 'not sent yet', scheduled: `begins ${at}, ${sayZone(zone.value)}`, sending: `leaving since ${at}`, paused: 'paused',
    stopped: `stopped after ${went}`, sent: `sent to ${went}, ${at}`,
  }
  return `Broadcast${list}, ${STANDING[now.state]}.`
})
const editing = ref(false)
/** When a second one would begin. */
const againAt = computed(() => {
  const [spec, first] = [draft.value.again, reach.value?.times?.firstAt]
  if (!spec || first === undefined) return null
  const { date, time, zone: by } = whenAgain(draft.value.when, spec.afterDays, first, zone.value)
  return `${sayDate(date)}, ${time}${by === 'reader' ? ' by each reader’s clock' : ''}`
})
const listOptions = computed(() => lists.value.map(({ id: value, name }) => ({ value, name })))

/* Leaving */

const { busy, problem, attempt } = useAttempt()
const undo = useUndo()
async function act(work: () => Promise<typeof view.value>) {
  if (!await flush()) return false
  const done = await attempt(async () => {
    view.value = await work()
  })
  await frame.changed()
  return done
}
const at = { at: { id } }
async function send() {
  if (!await flush()) return
  await act(() => api('POST /broadcasts/:id/schedule', { ...at, ifMatch: saving.revision.value }))
}
const actOnAgain = (sendId: number, what: 'take-back' | 'pause' | 'resume' | 'stop') =>
  act(() => api('POST /broadcasts/:id/again/:sendId/:act', { at: { id, sendId, act: what } }))
const takeBack = () => act(() => api('DELETE /broadcasts/:id/schedule', at))
const pause = () => act(() => api('POST /broadcasts/:id/pause', at))
const resume = () => act(() => api('POST /broadcasts/:id/resume', at))
const confirmation = useConfirm()
const stop = () => confirmation.require({
  header: 'Stop the rest?',
  message: `${sayPeople(view.value?.progress?.waiting ?? 0)} who have not been sent it do not get it. This cannot be undone.`,
  acceptLabel: 'Stop the rest', rejectLabel: 'Let it go on', accept: () => void act(() => api('POST /broadcasts/:id/stop', at)),
})
async function remove() {
  if (!await flush()) return
  if (!await attempt(() => api('DELETE /broadcasts/:id', at))) return
  await navigateTo('/broadcasts')
  await frame.changed()
  undo.did({ said: 'The broadcast is deleted.', undo: async () => {
    await api('POST /broadcasts/:id/back', at)
    await navigateTo(`/broadcasts/${id}`)
  } })
}
const offering = ref(false)
/** Out of here: by a link, or as a file. */
const more = [
  { label: 'Copy by link', icon: 'pi pi-link', command: () => {
    offering.value = true
  } },
  ...([['json', 'Export for another workspace (JSON)'], ['html', 'Export as HTML'], ['eml', 'Export as an email (.eml)']] as const)
    .map(([as, label]) => ({ label, icon: 'pi pi-download', url: hrefOf('GET /broadcasts/:id/export', { at: { id }, query: { as } }) })),
]
async function useStory() {
  const same = view.value?.sameStory
  if (same) put(same)
}
</script>

<template>
  <div>
    <ProblemNote v-if="notThere || partsProblem" :of="notThere || partsProblem" />
    <template v-else-if="view && typed">
      <PageHead :title="view.name" :back="{ to: '/broadcasts', name: 'Broadcasts' }">
        {{ standing }} <SaveNote v-if="changes" :draft="saving" :state="state" :problem="notSaved?.message ?? null" />
        <template #actions>
          <Button
            v-if="view.state === 'draft'" icon="pi pi-trash" severity="secondary" aria-label="Delete this draft" title="Delete this draft"
            @click="remove" />
          <ThingActions kind="broadcast" :id="id" :to="copy => `/broadcasts/${copy}`" :more="more" @done="load" />
        </template>
      </PageHead>
      <PartTabs
        :parts="PARTS" :chosen="part" label="Parts of the broadcast" :wanting="wanting"
        @choose="next => set({ part: next === 'plan' ? '' : next })" />
      <ProblemNote :of="problem" />

      <div v-if="part === 'email' && changes">
        <EmailDesk
          :model-value="draft.content" kind="broadcast" :list-id="draft.listId" :tags="tags" :owner-id="id"
          :earlier-of="sendOfBroadcast(id)" @update:model-value="content => put({ content })" />
      </div>
      <SentEmail v-else-if="part === 'email'" :content="draft.content" :list-id="draft.listId" :id="id" />

      <div v-else class="plan">
        <ProblemNote :of="notCounted" />
        <p v-if="view.sameStory" class="note">The last broadcast of this story went to another audience.
          <button type="button" class="link-button" @click="useStory">Use that audience here</button></p>
        <template v-if="changes">
          <ReachPanel :id="id" :reach="reach" :counting="counting" :changes="changes" @edit="editing = true" />
          <WarmUpNote v-if="reach?.warmUp" :warm-up="reach.warmUp" />
          <section class="panel columns-4" aria-label="When it leaves and whom it spares">
            <WhenColumn v-model="draft" :reach="reach" :problem="problemAt('when')" :zone="zone" />
            <div class="middle fields">
              <h2>When they get it</h2>
              <template v-if="reach?.times">
                <p class="second small">People per hour, {{ sayZone(zone) }}</p>
                <HoursChart :hours="reach.times.hours" :zone="zone" />
                <p class="small">From {{ sayMoment(reach.times.firstAt, zone) }}<template v-if="reach.times.lastAt > reach.times.firstAt">
                  to {{ sayMoment(reach.times.lastAt, zone) }}</template>.</p>
              </template>
              <p v-else class="second small">{{ counting ? 'Being counted.' : 'Nobody gets it at this time.' }}</p>
              <SelectField :model-value="draft.listId" label="List it belongs to" :options="listOptions" placeholder="choose a list"
                           @update:model-value="listId => put({ listId })">
                <p v-if="problemAt('listId')" class="problem">{{ problemAt('listId') }}</p>
              </SelectField>
              <StoryField :model-value="draft.story" :offers="parts?.offers ?? []" @update:model-value="story => put({ story })" />
            </div>
            <GuardsColumn v-model="draft" :id="id" :reach="reach" :changes="changes" />
            <AgainColumn v-model="draft" :problem="problemAt('again')" :at="againAt" />
          </section>
          <SameDay v-if="reach?.sameDay" :day="reach.sameDay" :gets="reach.gets.people" :zone="zone" />
        </template>
        <template v-else>
          <ProgressPanel v-if="view.state !== 'sent'" :id="id" :view="view" :zone="zone" />
          <ResultsPanel :id="id" :view="view" :zone="zone" @changed="now => view = now">
            <AgainList v-if="view.again.length" :again="view.again" :busy="busy" :zone="zone" @act="actOnAgain" />
          </ResultsPanel>
        </template>
      </div>
      <SendSill
        v-if="view.state !== 'sent' && view.state !== 'stopped' && part !== 'email'" :view="view" :reach="reach" :counting="counting"
        :busy="busy" :zone="zone"
        @send="send" @take-back="takeBack" @pause="pause" @resume="resume" @stop="stop" />
      <CopyLinkDialog v-if="offering" v-model:visible="offering" :id="id" :view="view" @changed="now => view = now" />
      <AudienceDialog
        v-if="editing" v-model:visible="editing" :was="draft.who" :parts="parts" @done="who => put({ who })" />
    </template>
  </div>
</template>

<style scoped>
.plan { display: grid; grid-template-columns: minmax(0, 1fr); gap: 16px; }
.columns-4 { display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); }
.columns-4 > * { padding: 14px 16px; border-left: 1px solid var(--p-porch-line-light); min-width: 0; }
.columns-4 > :first-child { border-left: 0; }
.middle { align-content: start; }
h2 { font: 650 16px/1.3 var(--heading); }
@media (max-width: 1000px) {
  .columns-4 { grid-template-columns: minmax(0, 1fr); }
  .columns-4 > * { border-left: 0; border-top: 1px solid var(--p-porch-line-light); }
}
</style>
