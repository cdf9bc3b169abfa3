<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import { sayNumber, sayPeople } from '#core/stats/say'
import { sayMoment, sayZone } from '#core/time/say'
import { SECOND } from '#core/time/zone'
import type { BroadcastReach, BroadcastView } from '#core/views/broadcast'
import { useFrame } from '~/stores/frame'
import { sayGone } from './states'

/** Where something leaves: what happens next, in real dates, and the one button that does it. */
const props = defineProps<{ view: BroadcastView, reach: BroadcastReach | null, counting: boolean, busy: boolean, zone: string }>()
defineEmits<{ send: [], takeBack: [], pause: [], resume: [], stop: [] }>()
const frame = useFrame()

/* The minute in which it can be taken back runs by this computer's clock. */
const now = ref(Date.now())
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => timer = setInterval(() => now.value = Date.now(), SECOND))
onBeforeUnmount(() => clearInterval(timer))
const left = computed(() => props.view.heldUntilAt === null ? null : Math.max(0, Math.ceil((props.view.heldUntilAt - now.value) / SECOND)))

const gets = computed(() => props.reach?.gets.people ?? null)
const first = computed(() => props.reach?.times?.firstAt ?? null)
const isLater = computed(() => first.value !== null && first.value > frame.now)
const label = computed(() => {
  if (gets.value === null || props.counting) return 'Counting people'
  const many = sayPeople(gets.value)
  if (props.view.state === 'scheduled') return `Use the changes, for ${many}`
  return props.view.draft.when.kind === 'now' ? `Send to ${many}` : `Schedule for ${many}`
})
const missing = computed(() => props.view.missing[0]?.problem ?? null)
const practice = computed(() => frame.mode === 'practice' ? ' In practice the emails arrive in the practice mailbox.' : '')
</script>

<template>
  <div class="sill" role="region" aria-label="Sending">
    <div class="says" role="status">
      <template v-if="view.state === 'draft' || view.hasChanges">
        <p v-if="missing"><strong>Not ready to send.</strong> {{ missing }}</p>
        <p v-else-if="gets === 0"><strong>Nobody gets it.</strong> Change its audience, or the people it spares.</p>
        <p v-else-if="isLater"><strong>Nothing leaves before {{ sayMoment(first!, zone) }}, {{ sayZone(zone) }}.</strong>
          Until then you can change or cancel it.</p>
        <p v-else><strong>It begins a minute after you press the button.</strong> In that minute you can cancel it.</p>
        <p class="second small"><template v-if="view.hasChanges">You have changed it since it was scheduled. What is scheduled is as it was.
        </template>{{ practice }}</p>
      </template>
      <template v-else-if="view.state === 'scheduled'">
        <p v-if="left !== null"><strong>It begins in {{ left }} seconds.</strong> You can still cancel it.</p>
        <p v-else><strong>Scheduled: it begins {{ sayMoment(view.dueAt!, zone) }}, {{ sayZone(zone) }}.</strong>
          Until then you can change or cancel it.</p>
        <p class="second small">Its audience is settled when it begins.{{ practice }}</p>
      </template>
      <template v-else-if="view.progress && view.progress.audience === null">
        <p><strong>Putting down who gets it.</strong></p>
      </template>
      <template v-else-if="view.progress">
        <p><strong>{{ sayGone(view.progress) }} have left.</strong>
          <template v-if="view.progress.heldBack > 0"> {{ sayNumber(view.progress.heldBack) }} held back.</template></p>
        <p class="second small">{{ view.state === 'paused' ? 'Paused: nothing more leaves until you resume it.'
          : 'You can pause or stop the rest. What has left has left.' }}</p>
      </template>
    </div>
    <div class="acts">
      <template v-if="view.state === 'draft' || view.hasChanges">
        <Button v-if="view.state === 'scheduled'" label="Cancel sending" severity="secondary" :disabled="busy" @click="$emit('takeBack')" />
        <Button
          :label="label" size="large" :disabled="missing !== null || !gets || counting" :loading="busy" @click="$emit('send')" />
      </template>
      <Button
        v-else-if="view.state === 'scheduled'" label="Cancel sending" severity="secondary" size="large" :loading="busy"
        @click="$emit('takeBack')" />
      <template v-else-if="view.state === 'sending'">
        <Button label="Stop the rest" severity="secondary" :disabled="busy" @click="$emit('stop')" />
        <Button label="Pause" size="large" :loading="busy" @click="$emit('pause')" />
      </template>
      <template v-else-if="view.state === 'paused'">
        <Button label="Stop the rest" severity="secondary" :disabled="busy" @click="$emit('stop')" />
        <Button :label="`Resume for ${sayPeople(view.progress?.waiting ?? 0)}`" size="large" :loading="busy" @click="$emit('resume')" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.sill {
  position: sticky; bottom: -28px; display: flex; align-items: center; justify-content: space-between; gap: 24px; z-index: 3;
  margin: 18px -28px -28px; padding: 12px 28px; background: var(--p-porch-paper); border-top: 1px solid var(--p-porch-line);
}
.says { min-width: 0; }
.acts { display: flex; gap: 8px; flex: none; }
@media (max-width: 760px) { .sill { display: grid; bottom: -24px; margin: 18px -16px -24px; padding: 12px 16px; } }
</style>
