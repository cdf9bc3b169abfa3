<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { endDot, sayMoment } from '#core/time/say'
import type { SenderLine } from '#core/views/senders'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import StateDot from '~/components/StateDot.vue'
import WarmUpDialog from './WarmUpDialog.vue'
import WarmUpDays from './WarmUpDays.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A sender as an inbox shows it, with its status and what can be done. */
const props = defineProps<{
  sender: SenderLine, lists: ReadonlyMap<number, string>, tags: ReadonlyMap<number, string>
}>()
const emit = defineEmits<{ changed: [], edit: [], remove: [], makeDefault: [] }>()
const frame = useFrame()
const code = ref('')
const sent = ref(false)
const warming = ref(false)
const { busy, problem, attempt } = useAttempt()

const at = computed(() => ({ id: props.sender.id }))
const isCodeOut = computed(() => props.sender.codeUntilAt !== null && props.sender.codeUntilAt > frame.now)
const names = (ids: readonly number[], of: ReadonlyMap<number, string>) => ids.flatMap(id => of.get(id) ?? []).join(', ')
const initial = computed(() => [...props.sender.name.trim()][0]?.toUpperCase() ?? '@')
const act = async (work: () => Promise<unknown>) => {
  if (await attempt(work)) emit('changed')
}
async function confirm() {
  await act(() => api('POST /senders/:id/confirm', { at: at.value, body: { code: code.value } }))
}
async function sendCode() {
  await act(() => api('POST /senders/:id/code', { at: at.value }))
  if (!problem.value) sent.value = true
}
</script>

<template>
  <article :id="`sender-${sender.id}`" class="row sender" tabindex="-1" :aria-label="sender.name">
    <span class="initial" aria-hidden="true">{{ initial }}</span>
    <div class="who">
      <p><strong>{{ sender.name }}</strong> <span class="second mono small">{{ sender.address }}</span></p>
      <p class="small">
        <StateDot v-if="sender.stoppedReason" is="trouble" words="Its mail service refuses" />
        <StateDot v-else-if="sender.confirmedAt === null" is="off" words="Not confirmed" />
        <StateDot v-else is="on" words="Confirmed" />
        <template v-if="sender.isDefault"> · <strong>used for everything else</strong></template>
      </p>
      <p v-if="sender.stoppedReason" class="problem small">{{ endDot(sender.stoppedReason) }} Its emails wait, and none is lost.</p>
      <p v-if="sender.listIds.length" class="small second">Lists: {{ names(sender.listIds, lists) }}</p>
      <p v-if="sender.tagIds.length" class="small second">Readers tagged: {{ names(sender.tagIds, tags) }}</p>
      <p v-if="sender.replyTo" class="small second">Replies go to {{ sender.replyTo }}</p>
      <p v-if="sender.serviceUrl" class="small second">Sends by <span class="mono">{{ sender.serviceUrl }}</span></p>
      <WarmUpDays v-if="sender.warmUp" :plan="sender.warmUp" />
      <form v-if="sender.confirmedAt === null" class="code" @submit.prevent="confirm">
        <template v-if="isCodeOut">
          <label :for="`code-${sender.id}`" class="small">Code from the email, valid until
            {{ sayMoment(sender.codeUntilAt!, frame.zone) }}</label>
          <div class="line">
            <InputText
              :id="`code-${sender.id}`" v-model="code" maxlength="12" inputmode="numeric" autocomplete="one-time-code" class="mono digits"
              :invalid="!!problem?.of('code')" />
            <Button type="submit" label="Confirm the address" :loading="busy" :disabled="code.trim() === ''" />
            <button type="button" class="link-button small" @click="sendCode">Send a new code</button>
          </div>
        </template>
        <div v-else class="line">
          <Button type="button" label="Send a code to this address" severity="secondary" size="small" :loading="busy" @click="sendCode" />
        </div>
        <p v-if="sent && !problem" class="small second" role="status">The code is on its way.</p>
      </form>
      <ProblemNote :of="problem" at="code" whole class="small" />
    </div>
    <div class="acts">
      <Button
        v-if="sender.stoppedReason" label="Send again" size="small" :loading="busy"
        @click="act(() => api('POST /senders/:id/resume', { at }))" />
      <Button label="Change" size="small" severity="secondary" :aria-label="`Change ${sender.name}`" @click="emit('edit')" />
      <button type="button" class="link-button small" :aria-label="`Warm-up of ${sender.name}`" @click="warming = true">
        {{ sender.warmUp ? 'Change the warm-up' : 'Warm up' }}</button>
      <template v-if="!sender.isDefault">
        <button
          type="button" class="link-button small" :aria-label="`Use ${sender.name} for everything else`"
          @click="emit('makeDefault')">Use for everything else</button>
        <button type="button" class="link-button small" :aria-label="`Remove ${sender.name}`" @click="emit('remove')">Remove</button>
      </template>
    </div>
    <WarmUpDialog v-if="warming" v-model:visible="warming" :sender="sender" @saved="emit('changed')" />
  </article>
</template>

<style scoped>
.sender { display: grid; grid-template-columns: 44px minmax(0, 1fr) auto; gap: 12px; align-items: start; }
.initial {
  width: 44px; height: 44px; border-radius: 50%; display: grid; place-items: center; font: 600 20px/1 var(--body);
  background: var(--p-porch-door); color: var(--p-porch-paper);
}
.who { display: grid; gap: 3px; min-width: 0; overflow-wrap: anywhere; }
.acts { display: grid; gap: 6px; justify-items: end; }
.code { display: grid; gap: 5px; padding-top: 6px; }
.line { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
.digits { width: 8.5em; letter-spacing: 0.12em; }
@media (max-width: 560px) {
  .sender { grid-template-columns: 44px minmax(0, 1fr); }
  .acts { grid-column: 2; justify-items: start; }
}
</style>
