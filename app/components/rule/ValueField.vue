<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { Field, FieldValue } from '#core/people/field'
import { fieldOptions } from '~/audience/fieldOptions'
import DateField from '~/components/DateField.vue'

/** One value of a field, by its kind; null where nothing is chosen. */
const value = defineModel<FieldValue | null>({ required: true })
const props = defineProps<{ field: Field, label: string, empty: string }>()
/** Yes and no are kept as numbers. */
const options = computed(() =>
  fieldOptions(props.field).map(option => props.field.kind === 'yes-no' ? { ...option, value: option.value === 'yes' ? 1 : 0 } : option))
</script>

<template>
  <Select
    v-if="options.length && ['yes-no', 'choice', 'country', 'zone'].includes(field.kind)" :model-value="value" :options="options"
    option-label="name" option-value="value" size="small" show-clear :filter="options.length > 12" :placeholder="empty" :aria-label="label"
    class="choice" @update:model-value="chosen => value = chosen ?? null" />
  <InputNumber
    v-else-if="field.kind === 'number'" :model-value="Number.isFinite(Number(value)) && value !== null ? Number(value) : null" size="small"
    :max-fraction-digits="6" :placeholder="empty" :aria-label="label" class="few" @update:model-value="number => value = number" />
  <DateField
    v-else-if="field.kind === 'date' && value !== null" :model-value="String(value)" :input-id="`value-${label.replace(/\W+/g, '-')}`"
    :label="label" size="small" @update:model-value="date => value = date" />
  <InputText
    v-else :model-value="String(value ?? '')" size="small" maxlength="200" :placeholder="field.kind === 'date' ? '2026-12-24' : empty"
    :aria-label="label" class="text" @update:model-value="text => value = text ? text : null" />
</template>

<style scoped>
.choice { min-width: 130px; }
.few :deep(input) { width: 88px; }
.text { width: 150px; }
</style>
