<script setup lang="ts">
import { computed, ref } from 'vue'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { nameOfMessage } from '#core/message/content'
import { ACTION_KINDS, type Action, type ActionKind } from '#core/rules/rule'
import { actionChoices } from '~/rules/choices'
import { useRuleParts } from '~/composables/useParts'
import NewTag from './NewTag.vue'
import ValueField from './ValueField.vue'
import { whenNeeded } from '~/components/whenNeeded'
import ProblemNote from '~/components/ProblemNote.vue'

/* Comes once it is seen. */
const RuleMail = whenNeeded(() => import('./RuleMail.vue'))

/** One thing that a rule, or a link, does: what, and with what. */
const action = defineModel<Action>({ required: true })
const props = defineProps<{ label: string, kinds?: readonly ActionKind[], problem?: string }>()
defineEmits<{ remove: [] }>()

const parts = useRuleParts()
const choices = computed(() => actionChoices(parts.value).filter(({ value }) => (props.kinds ?? ACTION_KINDS).includes(value)))
const choose = (kind: ActionKind) => action.value = choices.value.find(({ value }) => value === kind)!.make()
const set = (change: Record<string, unknown>) => action.value = { ...action.value, ...change } as Action

const field = computed(() => action.value.kind === 'set-field'
  ? parts.value.fields.find(({ id }) => action.value.kind === 'set-field' && id === action.value.fieldId)
  : undefined)
const writing = ref(false)
const subject = computed(() =>
  action.value.kind === 'email' ? nameOfMessage(action.value.content) : '')
const STATUS = [
  { value: 'resting', name: 'let them rest (no emails)' }, { value: 'active', name: 'end their rest' },
  { value: 'unsubscribed', name: 'unsubscribe them from everything' },
]
const EMAIL = [
  { value: 'no', name: 'here only' }, { value: 'at-once', name: 'here, and by email at once' },
  { value: 'daily', name: 'here, and in one email a day' },
]
</script>

<template>
  <div class="action" role="group" :aria-label="label">
    <Select
      :model-value="action.kind" :options="choices" option-label="name" option-value="value" size="small"
      :aria-label="`${label}: what is done`" class="kind" @update:model-value="choose" />
    <Select
      v-if="action.kind === 'give-tag' || action.kind === 'take-tag'" :model-value="action.tagId" :options="parts.tags" option-label="name"
      option-value="id" size="small" filter :aria-label="`${label}: which tag`" class="thing" @update:model-value="tagId => set({ tagId })"
    />
    <Select
      v-else-if="action.kind === 'join-list' || action.kind === 'leave-list'" :model-value="action.listId" :options="parts.lists"
      option-label="name" option-value="id" size="small" :aria-label="`${label}: which list`" class="thing"
      @update:model-value="listId => set({ listId })" />
    <Select
      v-else-if="action.kind === 'enrol' || action.kind === 'leave-course'" :model-value="action.courseId" :options="parts.courses"
      option-label="name" option-value="id" size="small" filter :aria-label="`${label}: which course`" class="thing"
      @update:model-value="courseId => set({ courseId })" />
    <Select
      v-else-if="action.kind === 'no-more' || action.kind === 'wait'" :model-value="action.offerId" :options="parts.offers"
      option-label="name" option-value="id" size="small" :aria-label="`${label}: of which offer`" class="thing"
      @update:model-value="offerId => set({ offerId })" />
    <Select
      v-else-if="action.kind === 'webhook'" :model-value="action.hookId" :options="parts.hooksOut" option-label="name" option-value="id"
      size="small" :aria-label="`${label}: which address`" class="thing" @update:model-value="hookId => set({ hookId })" />
    <template v-else-if="action.kind === 'set-field'">
      <Select
        :model-value="action.fieldId" :options="parts.fields" option-label="name" option-value="id" size="small" filter
        :aria-label="`${label}: which field`" class="thing" @update:model-value="fieldId => set({ fieldId, value: null, today: false })" />
      <Select
        v-if="field?.kind === 'date'" :model-value="action.today ?? false"
        :options="[{ value: true, name: 'to the day it happens' }, { value: false, name: 'to a date' }]" option-label="name"
        option-value="value" size="small" :aria-label="`${label}: which day`" @update:model-value="today => set({ today, value: null })" />
      <ValueField
        v-if="field && !action.today" :model-value="action.value" :field="field" :label="`${label}: to what`" empty="nothing (clear it)"
        @update:model-value="value => set({ value })" />
    </template>
    <InputNumber
      v-else-if="action.kind === 'score'" :model-value="action.points" :min="-1000" :max="1000" :allow-empty="false" size="small"
      class="few" suffix=" points" :aria-label="`${label}: points`" @update:model-value="points => set({ points: points ?? 0 })" />
    <Select
      v-else-if="action.kind === 'status'" :model-value="action.to" :options="STATUS" option-label="name" option-value="value" size="small"
      :aria-label="`${label}: to which`" @update:model-value="to => set({ to })" />
    <template v-else-if="action.kind === 'notice'">
      <InputText
        :model-value="action.text" size="small" maxlength="200" placeholder="for example: someone is interested"
        :aria-label="`${label}: what to say`" class="words" @update:model-value="text => set({ text: text ?? '' })" />
      <Select
        :model-value="action.email" :options="EMAIL" option-label="name" option-value="value" size="small" :aria-label="`${label}: where`"
        @update:model-value="email => set({ email })" />
    </template>
    <template v-else-if="action.kind === 'todo'">
      <InputText
        :model-value="action.text" size="small" maxlength="200" placeholder="for example: write to them yourself"
        :aria-label="`${label}: what is to be done`" class="words" @update:model-value="text => set({ text: text ?? '' })" />
      <span class="second small">due in</span>
      <InputNumber
        :model-value="action.days" :min="0" :max="365" :allow-empty="false" size="small" class="few"
        :suffix="action.days === 1 ? ' day' : ' days'" :aria-label="`${label}: due in how many days`"
        @update:model-value="days => set({ days: days ?? 0 })" />
      <span class="second small">for</span>
      <InputText
        :model-value="action.helper" size="small" maxlength="60" placeholder="me" :list="`helpers-${label.replace(/\W+/g, '-')}`"
        :aria-label="`${label}: for whom`" class="who" @update:model-value="helper => set({ helper: helper ?? '' })" />
      <datalist :id="`helpers-${label.replace(/\W+/g, '-')}`"><option v-for="name in parts.helpers" :key="name" :value="name" /></datalist>
    </template>
    <template v-else-if="action.kind === 'email'">
      <button type="button" class="link-button" @click="writing = true">{{ subject || 'write it' }}</button>
      <span class="second small">on the list</span>
      <Select
        :model-value="action.listId" :options="parts.lists" option-label="name" option-value="id" size="small"
        :aria-label="`${label}: on which list`" @update:model-value="listId => set({ listId })" />
      <RuleMail
        v-if="writing" :model-value="action.content" :list-id="action.listId" :tags="parts.tags"
        @update:model-value="content => set({ content, messageId: null })" @close="writing = false" />
    </template>
    <NewTag v-if="action.kind === 'give-tag'" :label="label" @made="tagId => set({ tagId })" />
    <button type="button" class="off" :aria-label="`Remove ${label}`" @click="$emit('remove')">
      <i class="pi pi-times" aria-hidden="true" />
    </button>
    <ProblemNote :of="problem" line class="small" />
  </div>
</template>

<style scoped>
.action { display: flex; align-items: center; gap: 6px; flex-wrap: wrap; padding: 4px 0; }
.kind { width: 178px; }
.thing { min-width: 150px; max-width: 280px; }
.few :deep(input) { width: 88px; }
.words { width: 230px; }
.who { width: 90px; }
.off {
  width: 24px; height: 24px; margin-left: auto; border: 0; border-radius: 4px; background: none; color: var(--p-porch-ink-second);
  cursor: pointer;
}
.off .pi { font-size: 11px; }
.off:hover { background: var(--p-porch-brick-ground); color: var(--p-porch-brick); }
.problem { width: 100%; color: var(--p-porch-brick); }
</style>
