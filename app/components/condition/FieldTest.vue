<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import type { FieldTest } from '#core/audience/condition'
import type { Field } from '#core/people/field'
import { localOf } from '#core/time/zone'
import { fieldOptions } from '~/audience/fieldOptions'
import { testChoiceOf, testsOf } from '~/audience/leaves'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'

/** What is asked of a field, with inputs of its kind. */
const props = defineProps<{ field: Field, label: string }>()
const test = defineModel<FieldTest>({ required: true })

const frame = useFrame()
const today = computed(() => localOf(frame.now, frame.zone).date)
const tests = computed(() => testsOf(props.field.kind, today.value))
function choose(value: string) {
  const next = tests.value.find(one => one.value === value)!.make()
  // What was typed stays where it fits.
  test.value = {
    ...next, ...('text' in next && 'text' in test.value && { text: test.value.text }),
    ...('number' in next && 'number' in test.value && { number: test.value.number }),
    ...('date' in next && 'date' in test.value && { date: test.value.date }),
  } as FieldTest
}
const options = computed(() => fieldOptions(props.field))
</script>

<template>
  <Select
    :model-value="testChoiceOf(test)" :options="tests" option-label="name" option-value="value" size="small"
    :aria-label="`${label}: what is asked`" @update:model-value="choose" />
  <InputText
    v-if="'text' in test" :model-value="test.text" size="small" maxlength="200" :aria-label="`${label}: letters`"
    @update:model-value="text => test = { ...test, text: text ?? '' } as FieldTest" />
  <InputNumber
    v-else-if="'number' in test" :model-value="test.number" size="small" :allow-empty="false" :max-fraction-digits="6"
    :aria-label="`${label}: number`" class="few" @update:model-value="number => test = { ...test, number: number ?? 0 } as FieldTest" />
  <DateField
    v-else-if="'date' in test" :model-value="test.date" :input-id="`test-${field.id}`" :label="`${label}: date`" size="small"
    @update:model-value="date => test = { ...test, date } as FieldTest" />
  <template v-else-if="'days' in test">
    <InputNumber
      :model-value="test.days" :min="test.is === 'day' ? -366 : 0" :max="test.is === 'day' ? 366 : 3650" :allow-empty="false" size="small"
      :aria-label="`${label}: how many days`" class="few" @update:model-value="days => test = { ...test, days: days ?? 0 } as FieldTest" />
    <span class="second small">calendar days</span>
  </template>
  <MultiSelect
    v-else-if="'values' in test" :model-value="test.values" :options="options" option-label="name" option-value="value" filter
    display="chip" :show-toggle-all="false" size="small" placeholder="choose" :aria-label="`${label}: one of`" class="several"
    @update:model-value="values => test = { is: 'one-of', values }" />
</template>

<style scoped>
.few :deep(input) { width: 88px; }
.several { min-width: 180px; max-width: 420px; }
</style>
