<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayBytes } from '#core/stats/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'

/** A file to hand out: brought in here, kept by its number. */
interface KnownFile { id: number, name: string, bytes: number }
const fileId = defineModel<number | null>({ required: true })
const props = defineProps<{
  known: KnownFile | null
  label: string
  wrong?: string
  /** What is taken away by “No file” is the caller's to say. */
  clearable?: boolean
}>()
const emit = defineEmits<{ brought: [file: KnownFile], cleared: [] }>()
const { attempt, busy, problem } = useAttempt()
const input = ref<HTMLInputElement>()
const brought = ref<KnownFile | null>(null)
const file = computed(() => [brought.value, props.known].find(one => one?.id === fileId.value))

async function bring() {
  const chosen = input.value?.files?.[0]
  if (!chosen) return
  await attempt(async () => {
    const one = brought.value = await api('POST /files', { query: { name: chosen.name, type: chosen.type }, file: chosen })
    fileId.value = one.id
    emit('brought', one)
  })
  input.value!.value = ''
}
function clear() {
  fileId.value = null
  emit('cleared')
}
</script>

<template>
  <p v-if="file" class="file">
    <i class="pi pi-file" aria-hidden="true" /> <strong class="cut">{{ file.name }}</strong> <span
      class="second">{{ sayBytes(file.bytes) }}</span>
  </p>
  <p class="acts">
    <Button
      size="small" severity="secondary" :label="fileId ? 'Another file' : 'Add a file'" icon="pi pi-upload" :loading="busy"
      @click="input!.click()" />
    <Button v-if="clearable || fileId" size="small" severity="secondary" label="No file" @click="clear" />
    <input ref="input" type="file" :aria-label="label" hidden @change="bring" />
  </p>
  <ProblemNote v-if="problem ?? wrong" :of="problem ?? wrong" at="file" whole />
  <p v-else class="second small"><slot /></p>
</template>

<style scoped>
.file { display: flex; gap: 8px; align-items: baseline; }
.acts { display: flex; gap: 6px; }
</style>
