<script setup lang="ts">
import { onMounted, ref } from 'vue'
import Dialog from '~/components/DialogBox'
import SelectButton from 'primevue/selectbutton'
import type { SentEmail } from '#core/views/email'
import { sayMoment } from '#core/time/say'
import { api, hrefOf } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'

/** An email as its reader got it. */
const props = defineProps<{ id: number, zone: string }>()
defineEmits<{ close: [] }>()
const { problem, attempt } = useAttempt()
const email = ref<SentEmail | null>(null)
const as = ref<'html' | 'text'>('html')
const PARTS = [{ value: 'html', name: 'As they saw it' }, { value: 'text', name: 'As text' }]
onMounted(() => attempt(async () => email.value = await api('GET /emails/:id', { at: { id: props.id } })))
</script>

<template>
  <Dialog visible modal :header="email?.title ?? 'The email'" :style="{ width: '720px' }" @update:visible="$emit('close')">
    <ProblemNote :of="problem?.message ?? null" />
    <div v-if="email" class="fields">
      <p><strong>{{ email.subject }}</strong> <span class="second small">sent {{ sayMoment(email.at, zone) }}</span></p>
      <p v-for="text in email.got" :key="text" class="second small">{{ text }}</p>
      <p v-if="!email.isKept" class="note">What stood in its places for this reader is no longer known. These are the words that were
        sent.</p>
      <SelectButton
        v-model="as" :options="PARTS" option-label="name" option-value="value" :allow-empty="false" size="small"
        aria-label="How it is shown" />
      <iframe v-if="as === 'html'" :src="hrefOf('GET /emails/:id/html', { at: { id } })" title="The email as they saw it" />
      <pre v-else class="mono" tabindex="0">{{ email.text }}</pre>
    </div>
  </Dialog>
</template>

<style scoped>
iframe, pre { width: 100%; height: 52vh; margin: 0; border: 1px solid var(--p-porch-line); border-radius: 8px; background: #fff; }
pre { overflow: auto; padding: 14px 16px; white-space: pre-wrap; overflow-wrap: anywhere; background: var(--p-porch-paper); }
</style>
