<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { PLACEHOLDER_FIELDS, type PlaceholderField } from '#core/message/content'

/** Asks what stands in a placeholder's stead when the fact is not known. */
const props = defineProps<{ field: PlaceholderField, fallback: string, action: string }>()
const emit = defineEmits<{ done: [fallback: string], close: [] }>()
const fallback = ref(props.fallback)
</script>

<template>
  <form class="fallback" @submit.prevent="fallback.trim() && emit('done', fallback.trim())" @keydown.esc.stop="emit('close')">
    <label :for="`fallback-${field}`">Their {{ PLACEHOLDER_FIELDS[field] }}; where it is not known:</label>
    <InputText :id="`fallback-${field}`" v-model="fallback" size="small" maxlength="80" autofocus />
    <Button type="submit" size="small" severity="secondary" :label="action" :disabled="!fallback.trim()" />
  </form>
</template>

<style scoped>
.fallback {
  display: flex; align-items: center; gap: 8px; padding: 6px 8px; background: var(--p-porch-rail);
  border-top: 1px solid var(--p-porch-line-light); font-size: 13px; flex-wrap: wrap;
}
.fallback input { width: 130px; }
</style>
