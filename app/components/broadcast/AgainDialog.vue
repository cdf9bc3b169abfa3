<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { AgainSpec } from '#core/broadcast/again'
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { BroadcastWhen } from '#core/broadcast/when'
import { rateOf } from '#core/stats/rate'
import { sayNumber, sayPeople, sayRate } from '#core/stats/say'
import { sayZone } from '#core/time/say'
import { addDays, localOf } from '#core/time/zone'
import type { BroadcastView } from '#core/views/broadcast'
import type { BroadcastResults } from '#core/views/broadcastResults'
import { api } from '~/composables/useApi'
import { useAgainReach } from '~/composables/useAgainReach'
import { useAttempt } from '~/composables/useAttempt'
import { useFirstField } from '~/composables/useFirstField'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import SelectField from '~/components/SelectField.vue'
import TimeField from '~/components/TimeField.vue'
import AgainFields from './AgainFields.vue'

/** Sends it again to some of its readers: who they are, how many, and whether that is worth it. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ id: number, draft: BroadcastDraft, results: BroadcastResults | null }>()
const emit = defineEmits<{ done: [view: BroadcastView] }>()
const frame = useFrame()
useFirstField('form')
const spec = ref<AgainSpec>({ without: 'open', url: null, subject: [], uncertainToo: false })
const { reach, problem: notCounted } = useAgainReach(props.id, () => spec.value)
type Way = BroadcastWhen['kind']
const way = ref<Way>('now')
const WAYS: { value: Way, name: string }[] = [{ value: 'now', name: 'now' }, { value: 'at', name: `at a time, ${sayZone(frame.zone)}` }]
const date = ref(addDays(localOf(frame.now, frame.zone).date, 1))
const time = ref('08:00')
const { busy, problem, attempt } = useAttempt()
async function send() {
  const when: BroadcastWhen = way.value === 'now' ? { kind: 'now' } : { kind: 'at', date: date.value, time: time.value, zone: 'workspace' }
  let view: BroadcastView | null = null
  if (!await attempt(async () => {
    view = await api('POST /broadcasts/:id/again', { at: { id: props.id }, body: { ...spec.value, when } })
  })) return
  visible.value = false
  emit('done', view!)
}
/** Honest: what it is worth, from the owner's own numbers where there are any. */
const advice = computed(() => {
  const lines: string[] = []
  const interested = props.results ? props.results.clicked.people - props.results.bought.people : 0
  if (interested > 0) lines.push(`Most worth following up are the interested: ${sayPeople(interested)} clicked and did not buy.`)
  const past = reach.value?.past
  if (past && past.sent > 0) {
    lines.push(`Of ${sayNumber(past.sent)} second emails so far, ${sayRate(rateOf(past.clicked, past.sent))} were clicked and ${sayRate(rateOf(past.left, past.sent))} made somebody unsubscribe.`)
  }
  else if (spec.value.without === 'open') {
    lines.push('Mailing the silent costs something: few of them read the second one, some unsubscribe, and mail services see many unread emails from you.')
  }
  return lines
})
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Send it again" :style="{ width: '560px' }">
    <form ref="form" class="fields" @submit.prevent="send">
      <AgainFields v-model="spec" :content="draft.content" :list-id="draft.listId" />
      <SelectField v-model="way" label="Send it" :options="WAYS" />
      <div v-if="way === 'at'" class="fields two">
        <div class="field"><label for="again-date">Date</label><DateField v-model="date" input-id="again-date" /></div>
        <div class="field"><label for="again-time">Time</label><TimeField v-model="time" input-id="again-time" /></div>
      </div>
      <p v-if="reach" role="status">
        <strong>{{ reach.people === 1 ? '1 person gets it.' : `${sayNumber(reach.people)} people get it.` }}</strong>
        {{ reach.heldBack > 0 ? `${sayNumber(reach.heldBack)} are held back.` : '' }}
        {{ reach.uncertain > 0 ? `${sayPeople(reach.uncertain)} with only uncertain opens are left out.` : '' }}
      </p>
      <p class="second small">Nobody gets more than one second sending of it. Each reader is checked again just before their email leaves:
        people who have read it by then do not get it.</p>
      <p v-for="lines in advice" :key="lines" class="note small">{{ lines }}</p>
      <ProblemNote :of="problem ?? notCounted" />
      <div class="ends">
        <Button type="button" severity="secondary" label="Do not send it again" @click="visible = false" />
        <Button
          type="submit" :label="reach ? `Send to ${sayPeople(reach.people)}` : 'Counting people'" :loading="busy"
          :disabled="!reach?.people" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.ends { display: flex; justify-content: flex-end; gap: 8px; }
</style>
