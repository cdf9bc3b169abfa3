<script setup lang="ts">
import { ref } from 'vue'

/** A place to drop a file on, which is a file chooser for the keyboard. */
defineProps<{ busy: boolean, most: string }>()
const emit = defineEmits<{ file: [file: File] }>()
const over = ref(false)
const input = ref<HTMLInputElement | null>(null)

function take(files: FileList | null | undefined) {
  over.value = false
  const file = files?.[0]
  if (file) emit('file', file)
  if (input.value) input.value.value = ''
}
</script>

<template>
  <label
    class="drop" :class="{ over }" @dragover.prevent="over = true" @dragleave="over = false"
    @drop.prevent="event => take(event.dataTransfer?.files)">
    <i class="pi" :class="busy ? 'pi-spinner pi-spin' : 'pi-upload'" aria-hidden="true" />
    <span>
      <strong>{{ busy ? 'Reading the file' : 'Drop a CSV file here' }}</strong>
      <br />
      <span class="second">
        {{ busy
          ? 'Its rows are saved; nothing is imported yet.'
          : `or click to choose one. Commas, semicolons or tabs; UTF-8, UTF-16 or Windows-1252; up to ${most}.` }}
      </span>
    </span>
    <input
      ref="input" type="file" accept=".csv,.tsv,.txt,text/csv,text/plain" :disabled="busy" aria-label="Choose a CSV file"
      @change="take(input?.files)" />
  </label>
</template>

<style scoped>
.drop {
  display: flex; gap: 16px; align-items: center; padding: 26px 22px; border: 1.5px dashed var(--p-porch-line); border-radius: 8px;
  background: var(--p-porch-paper); cursor: pointer; position: relative;
}
.drop.over, .drop:focus-within { border-color: var(--p-porch-door); background: var(--p-porch-rail); }
.pi { font-size: 22px; color: var(--p-porch-door); }
input { position: absolute; inset: 0; opacity: 0; cursor: pointer; }
</style>
