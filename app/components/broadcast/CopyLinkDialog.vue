<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import ToggleSwitch from 'primevue/toggleswitch'
import type { BroadcastView } from '#core/views/broadcast'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'

/** A link by which a copy can be taken into another workspace. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ id: number, view: BroadcastView }>()
const emit = defineEmits<{ changed: [view: BroadcastView] }>()
const { busy, problem, attempt } = useAttempt()
const offer = (on: boolean) => attempt(async () => {
  emit('changed', await api('PUT /broadcasts/:id/copy-link', { at: { id: props.id }, body: { on } }))
})
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(props.view.copyUrl!)
  copied.value = true
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Copy by link" :style="{ width: '560px' }">
    <div class="fields">
      <div class="top">
        <label for="copy-by-link">Anyone with the link can take a copy</label>
        <ToggleSwitch :model-value="view.copyUrl !== null" input-id="copy-by-link" :disabled="busy" autofocus @update:model-value="offer" />
      </div>
      <div v-if="view.copyUrl" class="link">
        <InputText :model-value="view.copyUrl" readonly class="mono" aria-label="Link to the copy" />
        <Button :label="copied ? 'Copied' : 'Copy the link'" icon="pi pi-copy" severity="secondary" @click="copy" />
      </div>
      <p class="second small">In another workspace, paste it under Broadcasts, Import. The copy has the email with its pictures and files, the
        audience and its tags by name. It has no people and no results. Switching this off ends the link.</p>
      <ProblemNote :of="problem" general />
    </div>
  </Dialog>
</template>

<style scoped>
.top { display: flex; gap: 12px; justify-content: space-between; align-items: center; font-weight: 600; }
.link { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 8px; }
</style>
