<script setup lang="ts">
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { saySome } from '#core/stats/say'
import { sayMoment } from '#core/time/say'
import type { HeldView } from '#core/views/engine'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** One switch for all sending of the workspace that is shown. */
defineProps<{ held: HeldView | null, zone: string }>()
const emit = defineEmits<{ done: [] }>()
const frame = useFrame()
const { busy, problem, attempt } = useAttempt()
const put = (held: boolean) => attempt(async () => {
  await api('PUT /sending/held', { body: { held } })
  await frame.changed()
  emit('done')
})
const confirmation = useConfirm()
const hold = () => confirmation.require({
  header: 'Stop all sending?',
  message: `No email of ${frame.mode} leaves until you release it: not even confirmations. What comes due waits, and nothing is lost.`,
  acceptLabel: 'Stop all sending', rejectLabel: 'Let it go on', accept: () => void put(true),
})
</script>

<template>
  <div v-if="held" class="note lamp held" role="status">
    <p><strong>All sending is stopped since {{ sayMoment(held.sinceAt, zone) }}.</strong>
      {{ held.waiting === 0 ? 'No email waits.' : `${saySome(held.waiting, 'email waits', 'emails wait')}.` }} Nothing is lost.</p>
    <Button label="Release it" size="small" :loading="busy" @click="put(false)" />
  </div>
  <button v-else type="button" class="link-button small" :disabled="busy" @click="hold">Stop all sending</button>
  <ProblemNote v-if="problem" :of="problem" />
</template>

<style scoped>
.held { display: flex; justify-content: space-between; align-items: center; gap: 16px; margin-bottom: 12px; }
</style>
