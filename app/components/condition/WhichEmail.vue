<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import type { SendKindName, WhichSend } from '#core/sending/kinds'
import { keyOf, sendChoices } from '~/audience/sends'
import { useParts } from '~/composables/useParts'

/** One email, those of one course, page or offer, or any. */
const which = defineModel<WhichSend | null>({ required: true })
/** `without`: kinds that cannot be asked for here. */
const props = defineProps<{ label: string, without?: SendKindName[] }>()
const parts = useParts()

const groups = computed(() =>
  sendChoices(parts.value).filter(({ items }) => !items[0]!.which || !props.without?.includes(items[0]!.which.kind)))
const choices = computed(() => groups.value.flatMap(({ items }) => items))
const choose = (key: string) => which.value = choices.value.find(one => one.key === key)?.which ?? null
</script>

<template>
  <Select
    :model-value="keyOf(which)" :options="groups" option-label="name" option-value="key" option-group-label="name"
    option-group-children="items" size="small" filter :aria-label="label" class="which" @update:model-value="choose" />
</template>

<style scoped>
.which { max-width: 300px; }
</style>
