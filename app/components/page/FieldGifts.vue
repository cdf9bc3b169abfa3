<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { FieldGift } from '#core/page/form'
import { readField, sayField, type Field, type FieldValue } from '#core/people/field'
import { localOf } from '#core/time/zone'
import { fieldOptions, isChosen } from '~/audience/fieldOptions'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'

/** Values that go into fields. */
const gifts = defineModel<FieldGift[]>({ required: true })
const props = defineProps<{ label: string }>()
const parts = useParts()
const frame = useFrame()

const rows = computed(() => gifts.value.map(gift => ({ gift, field: parts.value.fields.find(({ id }) => id === gift.fieldId) })))
const more = computed(() => parts.value.fields.filter(field => !gifts.value.some(({ fieldId }) => fieldId === field.id)))
/** What fits a field of this kind until something else is chosen. */
function firstOf(field: Field): FieldValue {
  if (field.kind === 'number') return 1
  if (field.kind === 'date') return localOf(frame.now, frame.zone).date
  return field.kind === 'zone' ? frame.zone : isChosen(field) ? read(field, fieldOptions(field)[0]!.value) : ''
}
function read(field: Field, typed: string): FieldValue {
  const value = readField(field, typed)
  return value.ok ? value.value : typed
}
function add(fieldId: number | null) {
  const field = parts.value.fields.find(({ id }) => id === fieldId)
  if (field) gifts.value = [...gifts.value, { fieldId: field.id, value: firstOf(field) }]
}
const set = (fieldId: number, value: FieldValue) =>
  gifts.value = gifts.value.map(gift => gift.fieldId === fieldId ? { fieldId, value } : gift)
const out = (fieldId: number) => gifts.value = gifts.value.filter(gift => gift.fieldId !== fieldId)
/** A value as its select has it. */
const asChosen = (field: Field, value: FieldValue) => field.kind === 'yes-no' ? sayField(field.kind, value) : String(value)
const named = (name: string | undefined) => `${props.label} sets ${name ?? 'a field'}`
</script>

<template>
  <div class="gifts">
    <p v-for="{ gift, field } in rows" :key="gift.fieldId" class="gift">
      <span class="second small">sets</span> <span>{{ field?.name ?? 'a deleted field' }}</span> <span class="second small">to</span>
      <template v-if="field">
        <Select
          v-if="isChosen(field)" :model-value="asChosen(field, gift.value)" :options="fieldOptions(field)" option-label="name"
          option-value="value" size="small" :filter="field.kind !== 'yes-no'" :aria-label="named(field.name)"
          @update:model-value="value => set(field.id, read(field, value))" />
        <InputNumber
          v-else-if="field.kind === 'number'" :model-value="Number(gift.value)" size="small" :allow-empty="false" :max-fraction-digits="6"
          :aria-label="named(field.name)" class="few" @update:model-value="value => set(field.id, value ?? 0)" />
        <DateField
          v-else-if="field.kind === 'date'" :model-value="String(gift.value)" :input-id="`gift-${field.id}`" :label="named(field.name)"
          size="small" @update:model-value="value => set(field.id, value)" />
        <InputText
          v-else :model-value="String(gift.value)" size="small" maxlength="1000" :aria-label="named(field.name)"
          @update:model-value="value => set(field.id, value ?? '')" />
      </template>
      <Button
        icon="pi pi-times" size="small" text severity="secondary" :aria-label="`${props.label} does not set ${field?.name ?? 'this field'}`"
        @click="out(gift.fieldId)" />
    </p>
    <Select
      v-if="more.length" :model-value="null" :options="more" option-label="name" option-value="id" size="small" placeholder="set a field"
      :aria-label="`${label}: set a field`" class="add" @update:model-value="add" />
  </div>
</template>

<style scoped>
.gifts { display: grid; gap: 6px; justify-items: start; }
.gift { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.few :deep(input) { width: 88px; }
.gifts .p-select { width: auto; max-width: 100%; }
.gifts .p-inputtext { width: 180px; }
</style>
