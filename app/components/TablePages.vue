<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import { sayNumber } from '#core/stats/say'

/** Which rows of how many are shown, and the way to the others. `page` counts from 0; no total yet means that it is being counted. */
const props = defineProps<{ page: number, pageSize: number, total: number | null, shown: number, one: string, many: string }>()
const emit = defineEmits<{ go: [page: number] }>()
const last = computed(() => props.total === null
  ? (props.shown === props.pageSize ? props.page + 1 : props.page)
  : Math.max(0, Math.ceil(props.total / props.pageSize) - 1))
const says = computed(() => {
  if (props.total !== null && props.total <= props.pageSize) {
    return `${sayNumber(props.total)} ${props.total === 1 ? props.one : props.many}`
  }
  const from = props.page * props.pageSize
  return `${sayNumber(from + 1)} to ${sayNumber(from + props.shown)} of ${props.total === null ? `${props.many} being counted` : `${sayNumber(props.total)} ${props.many}`}`
})
</script>

<template>
  <div class="pages second small">
    <span role="status">{{ says }}</span>
    <span v-if="last > 0" class="ways">
      <Button
        severity="secondary" size="small" icon="pi pi-chevron-left" aria-label="Earlier page" :disabled="page === 0"
        @click="emit('go', page - 1)" />
      <Button severity="secondary" size="small" icon="pi pi-chevron-right" aria-label="Next page" :disabled="page >= last"
              @click="emit('go', page + 1)" />
    </span>
  </div>
</template>

<style scoped>
.pages {
  display: flex; align-items: center; justify-content: space-between; gap: 12px; padding: 8px 12px; min-height: 42px;
  border-top: 1px solid var(--p-porch-line-light);
}
.ways { display: flex; gap: 6px; }
</style>
