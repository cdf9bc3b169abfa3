<script setup lang="ts">
import { ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import type { BroughtBroadcast } from '#core/views/broadcast'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** A broadcast of another workspace: by its link, or as a file. */
const visible = defineModel<boolean>('visible', { required: true })
const frame = useFrame()
const url = ref('')
const input = ref<HTMLInputElement>()
const brought = ref<BroughtBroadcast | null>(null)
const { busy, problem, attempt } = useAttempt()
async function take(work: () => Promise<BroughtBroadcast>) {
  let done: BroughtBroadcast | null = null
  if (!await attempt(async () => {
    done = await work()
    await frame.changed()
  })) return
  const { id, made, lost } = done!
  if (made.length + lost.length === 0) await navigateTo(`/broadcasts/${id}`)
  else brought.value = done
}
async function fromFile() {
  const file = input.value?.files?.[0]
  if (file) await take(() => api('POST /broadcasts/bring', { file }))
  if (input.value) input.value.value = ''
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Import a broadcast" :style="{ width: '560px' }">
    <div v-if="brought" class="fields" role="status">
      <p><strong>It is there as a draft.</strong></p>
      <p v-if="brought.made.length" class="small">Made for it: {{ brought.made.join(', ') }}.</p>
      <p v-if="brought.lost.length" class="small">Not found here, so left out: {{ brought.lost.join(', ') }}.</p>
      <div class="ends"><Button label="Open the draft" @click="navigateTo(`/broadcasts/${brought.id}`)" /></div>
    </div>
    <form v-else class="fields" @submit.prevent="take(() => api('POST /broadcasts/bring-link', { body: { url } }))">
      <div class="field">
        <label for="copy-link">Link to a copy</label>
        <div class="link">
          <InputText
            id="copy-link" v-model="url" class="mono" maxlength="2000" placeholder="https://example.com/letters/copy/…" autofocus
            :invalid="!!problem?.of('url')" />
          <Button type="submit" label="Import" :loading="busy" :disabled="url.trim() === ''" />
        </div>
        <ProblemNote :of="problem" at="url" />
      </div>
      <p class="second">Or choose a file that was exported as JSON:
        <Button
          type="button" label="Choose a file" icon="pi pi-upload" severity="secondary" size="small" :disabled="busy"
          @click="input!.click()" /></p>
      <input ref="input" type="file" accept=".json,application/json" aria-label="A broadcast as a file" hidden @change="fromFile" />
      <ProblemNote v-if="!problem?.of('url')" :of="problem" first />
      <p class="second small">It becomes a draft. Tags, lists and fields that do not exist here are made; nobody is brought along.</p>
    </form>
  </Dialog>
</template>

<style scoped>
.link { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 8px; }
.ends { display: flex; justify-content: flex-end; }
</style>
