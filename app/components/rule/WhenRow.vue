<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Checkbox from 'primevue/checkbox'
import { TRIGGERS, type Trigger, type TriggerKind } from '#core/rules/rule'
import { newWhen, thingsOf, THING_WORDS, whenOptions } from '~/rules/choices'
import { useRuleParts } from '~/composables/useParts'
import WhichEmail from '../condition/WhichEmail.vue'
import ValueField from './ValueField.vue'

/** What happens to someone: the kind of event, the thing it is about, and what else can be asked of it. */
const when = defineModel<Trigger>({ required: true })
/** `emails`: those of the course this stands in; a link can be followed in one of them. */
const props = defineProps<{ label: string, emails?: { id: string, name: string }[] }>()
const parts = useRuleParts()

const options = computed(() => whenOptions(parts.value))
const shape = computed(() => TRIGGERS[when.value.kind])
const things = computed(() => {
  const { thing, any } = shape.value
  if (thing === null) return []
  const all = when.value.kind === 'date-arrived' ? parts.value.fields.filter(field => field.kind === 'date') : thingsOf(thing, parts.value)
  return any ? [{ id: 0, name: THING_WORDS[thing].any }, ...all] : all
})
const field = computed(() => parts.value.fields.find(({ id }) => id === when.value.thingId))
const set = (change: Partial<Trigger>) => when.value = { ...when.value, ...change }
const choose = (kind: TriggerKind) => when.value = newWhen(kind, parts.value)
const chooseThing = (id: number) =>
  set({ thingId: id || null, from: null, to: null })
const BEFORE_AFTER = [{ value: -1, name: 'days before' }, { value: 1, name: 'days after' }]
const side = computed(() => (when.value.days ?? 0) < 0 ? -1 : 1)
const distance = computed(() => Math.abs(when.value.days ?? 0))
</script>

<template>
  <div class="when" role="group" :aria-label="label">
    <span class="second">someone</span>
    <Select
      :model-value="when.kind" :options="options" option-label="name" option-value="value" option-group-label="name"
      option-group-children="items" size="small" filter :aria-label="`${label}: what happens`" class="kind" @update:model-value="choose" />
    <Select
      v-if="shape.thing !== null" :model-value="when.thingId ?? 0" :options="things" option-label="name" option-value="id" size="small"
      filter :placeholder="`which ${THING_WORDS[shape.thing].one}`" :empty-message="`There is no ${THING_WORDS[shape.thing].one} yet.`"
      :aria-label="`${label}: which ${THING_WORDS[shape.thing].one}`" class="thing" @update:model-value="chooseThing" />
    <WhichEmail
      v-if="shape.ofSend" :model-value="when.which ?? null" :label="`${label}: which email`" :without="['rule']"
      @update:model-value="which => set({ which })" />
    <Select
      v-if="when.kind === 'clicked' && props.emails?.length" :model-value="when.stepId ?? ''"
      :options="[{ id: '', name: 'in any email' }, ...props.emails]" option-label="name" option-value="id" size="small"
      placeholder="in any email" :aria-label="`${label}: in which email`" @update:model-value="stepId => set({ stepId: stepId || null })" />
    <span v-if="when.kind === 'opened'" class="second small">reader opens only; automatic loading is not counted</span>
    <label v-if="when.kind === 'lost-tag'" class="small tick">
      <Checkbox :model-value="when.expired ?? false" binary @update:model-value="expired => set({ expired })" />
      only because it expired</label>
    <template v-if="when.kind === 'field-changed' && field">
      <span class="second small">from</span>
      <ValueField
        :model-value="when.from ?? null" :field="field" :label="`${label}: from`" empty="anything"
        @update:model-value="from => set({ from })" />
      <span class="second small">to</span>
      <ValueField
        :model-value="when.to ?? null" :field="field" :label="`${label}: to`" empty="anything" @update:model-value="to => set({ to })" />
    </template>
    <template v-if="when.kind === 'date-arrived'">
      <InputNumber
        :model-value="distance" :min="0" :max="366" :allow-empty="false" size="small" class="few" :aria-label="`${label}: how many days`"
        @update:model-value="days => set({ days: (days ?? 0) * side })" />
      <Select
        :model-value="side" :options="BEFORE_AFTER" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: before or after the date`" @update:model-value="now => set({ days: distance * now })" />
      <label class="small tick"><Checkbox :model-value="when.yearly ?? false" binary @update:model-value="yearly => set({ yearly })" />
        every year</label>
    </template>
    <template v-if="when.kind === 'became-silent'">
      <InputNumber
        :model-value="when.days ?? 60" :min="1" :max="3650" :allow-empty="false" size="small" class="few" suffix=" days"
        :aria-label="`${label}: how many days (24 hours)`" @update:model-value="days => set({ days: days ?? 1 })" />
      <span class="second small">neither a reader open nor a click</span>
    </template>
    <InputNumber
      v-if="when.kind === 'reached-score'" :model-value="when.points ?? 20" :min="1" :max="10000" :allow-empty="false" size="small"
      class="few" suffix=" points" :aria-label="`${label}: how many points`" @update:model-value="points => set({ points: points ?? 1 })" />
    <InputText
      v-if="when.kind === 'todo-done'" :model-value="when.text ?? ''" size="small" maxlength="200" placeholder="any answer"
      :aria-label="`${label}: which to-do`" @update:model-value="text => set({ text: text ?? '' })" />
  </div>
</template>

<style scoped>
.when { display: flex; align-items: center; gap: 6px; flex-wrap: wrap; }
.kind { width: 210px; }
.thing { min-width: 170px; max-width: 300px; }
.few :deep(input) { width: 92px; }
.tick { display: inline-flex; align-items: center; gap: 6px; }
</style>
