<script setup lang="ts">
import { computed } from 'vue'
import InputText from 'primevue/inputtext'
import type { FileNode } from '#core/message/content'
import FileField from '~/components/FileField.vue'

/** A file that readers fetch. */
const props = defineProps<{ attrs: FileNode['attrs'] }>()
const emit = defineEmits<{ change: [attrs: Partial<FileNode['attrs']>] }>()
const known = computed(() => {
  const { fileId, fileName, bytes } = props.attrs
  return fileId === null ? null : { id: fileId, name: fileName, bytes }
})
</script>

<template>
  <div class="fields">
    <div class="field">
      <FileField
        :model-value="attrs.fileId" :known="known" label="File"
        @brought="file => emit('change', { fileId: file.id, fileName: file.name, bytes: file.bytes })"
        @cleared="emit('change', { fileId: null, fileName: '', bytes: 0 })">
        Every reader gets an address of their own. It is not counted, and works as long as the file is here.
      </FileField>
    </div>
    <div class="field">
      <label for="file-label">The link says</label>
      <InputText
        id="file-label" :model-value="attrs.label" size="small" maxlength="120"
        :placeholder="attrs.fileName || 'The twelve sheets, to print'"
        @update:model-value="label => emit('change', { label: label ?? '' })" />
    </div>
  </div>
</template>
