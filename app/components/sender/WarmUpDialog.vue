<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputNumber from 'primevue/inputnumber'
import { daysFor, USUAL_PLAN, type WarmUp } from '#core/sending/warmUp'
import { sayNumber } from '#core/stats/say'
import { sayDate, sayShortDate } from '#core/time/say'
import { localOf } from '#core/time/zone'
import type { SenderLine } from '#core/views/senders'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import BarsChart from '~/components/chart/BarsChart.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The plan of a new sender, with the days it would take. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ sender: SenderLine }>()
const emit = defineEmits<{ saved: [] }>()
const frame = useFrame()
const undo = useUndo()

type Typed = Omit<WarmUp, 'startedOn'>
const typedOf = ({ first, growth, until }: Typed): Typed => ({ first, growth, until })
const before = props.sender.warmUp && typedOf(props.sender.warmUp)
const typed = ref<Typed>({ ...before ?? USUAL_PLAN })
const today = computed(() => localOf(frame.now, frame.zone).date)
/** As if every day were used to the full. */
const days = computed(() => {
  const { warmUp } = props.sender
  const plan = { ...typed.value, startedOn: warmUp?.startedOn ?? today.value }
  const sent = warmUp?.sent ?? []
  const left = sent.find(({ date }) => date === today.value)?.sent ?? 0
  return typed.value.until <= typed.value.first ? [] : daysFor(plan, sent, { date: today.value, sent: left }, 100_000_000)
})
const limited = computed(() => days.value.filter(({ most }) => most !== null))
const bars = computed(() => limited.value.map(({ date, most }) => ({
  key: date, name: sayShortDate(date), says: `${sayDate(date)}: at most ${sayNumber(most!)} emails`, counts: [most!],
})))
const end = computed(() => days.value.find(({ most }) => most === null))

const { busy, problem, attempt } = useAttempt()
const keep = (plan: Typed | null) => api('PUT /senders/:id/warm-up', { at: { id: props.sender.id }, body: { plan } })
async function save(plan: Typed | null) {
  if (!await attempt(() => keep(plan))) return
  visible.value = false
  emit('saved')
  undo.did({ said: plan ? 'The warm-up is saved.' : 'The warm-up has ended.', undo: async () => {
    await keep(before)
    emit('saved')
  } })
}
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="`Warm up ${sender.address}`" :style="{ width: '640px' }">
    <form class="fields" @submit.prevent="save(typed)">
      <p>Receivers distrust a new sender that writes to thousands at once. A warm-up begins with few emails a day and grows.</p>
      <div class="line">
        <label for="warm-first">First day</label>
        <InputNumber v-model="typed.first" input-id="warm-first" :min="1" :max="100000" :allow-empty="false" size="small" autofocus
                     suffix=" emails" />
        <label for="warm-growth">then</label>
        <InputNumber v-model="typed.growth" input-id="warm-growth" :min="1" :max="300" :allow-empty="false" size="small" suffix=" % more" />
        <label for="warm-until">a day, up to</label>
        <InputNumber v-model="typed.until" input-id="warm-until" :min="2" :max="1000000" :allow-empty="false" size="small"
                     suffix=" a day" />
      </div>
      <ProblemNote :of="problem" at="until" />
      <BarsChart v-if="bars.length" :bars="bars" :series="['emails']" :stretch="`In ${bars.length} days`" />
      <p v-if="end" class="small">Used every day, it ends on <strong>{{ sayDate(end.date) }}</strong>. A day on which less than half of its
        number leaves is repeated.</p>
      <p v-else-if="bars.length" class="small">It takes more than 90 days.</p>
      <p class="second small">What is too much waits for the next day and keeps its order. Confirmations, receipts and what readers asked for
        leave at once, and count.</p>
      <ProblemNote :of="problem" general />
      <div class="ends">
        <button v-if="before" type="button" class="link-button" @click="save(null)">End the warm-up</button>
        <Button type="submit" :label="before ? 'Save the warm-up' : 'Start the warm-up'" :loading="busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.line { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.line :deep(input) { width: 8.5em; }
.ends { display: flex; gap: 18px; align-items: center; justify-content: flex-end; }
</style>
