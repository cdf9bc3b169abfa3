<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import type { SenderLine } from '#core/views/senders'
import { useSenders } from '~/composables/useSenders'

/** Who an email is from; asked where there are several. */
const senderId = defineModel<number | null>({ required: true })
const props = defineProps<{ listId: number | null }>()
const { senders, chosen, usual } = useSenders(() => ({ senderId: senderId.value, listId: props.listId }))
const says = ({ name, address }: SenderLine) => `${name}, ${address}`
const byTags = computed(() => senders.value.some(({ tagIds }) => tagIds.length > 0))
const options = computed(() => [
  ...usual.value ? [{ value: null, name: `As usual: ${says(usual.value)}${byTags.value ? ', or by the reader’s tags' : ''}` }] : [],
  ...senders.value.map(sender => ({ value: sender.id, name: says(sender) })),
])
const value = computed(() => chosen.value?.id ?? null)
const shown = computed(() => options.value.find(one => one.value === value.value)?.name ?? '')
</script>

<template>
  <div v-if="senders.length > 1" class="from">
    <span id="from-line" class="label">From</span>
    <Select
      :model-value="value" :options="options" option-label="name" option-value="value" :placeholder="shown" aria-labelledby="from-line"
      size="small" @update:model-value="(id: number | null) => senderId = id" />
  </div>
</template>

<style scoped>
.from { display: flex; align-items: center; gap: 10px; }
.from :deep(.p-select) { min-width: min(360px, 100%); }
</style>
