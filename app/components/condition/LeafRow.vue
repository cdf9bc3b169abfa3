<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import { saySourceKey, type SourceKey } from '#core/page/touch'
import { NO_RESULT, type Leaf } from '#core/audience/condition'
import { countryOptions, zoneOptions } from '~/audience/fieldOptions'
import { choiceOf, heldTags, leafChoices } from '~/audience/leaves'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import { saySource } from '#core/people/source'
import EmailLeaf from './EmailLeaf.vue'
import FieldTest from './FieldTest.vue'
import PurchaseLeaf from './PurchaseLeaf.vue'
import StretchField from './StretchField.vue'

/** One condition as a row: what it is about, and inputs of its kind. */
const leaf = defineModel<Leaf>({ required: true })
const props = defineProps<{ label: string, segmentId: number | null }>()
defineEmits<{ remove: [] }>()

const frame = useFrame()
const parts = useParts()
const choices = computed(() => leafChoices(parts.value, frame.now, frame.zone))
const groups = computed(() => [
  ...new Set(choices.value.map(choice => choice.group)),
].map(name => ({ name, items: choices.value.filter(choice => choice.group === name) })))
const choose = (value: string) => leaf.value = choices.value.find(choice => choice.value === value)!.make()

const STATUSES = ['active', 'pending', 'resting', 'unsubscribed', 'bounced', 'complained'].map(value => ({ value, name: value }))
const LIST_IS = [
  { value: 'joined', name: 'are on it' }, { value: 'left', name: 'have left it' }, { value: 'never-joined', name: 'never joined it' },
]
const CONSENT_IS = [{ value: 'on-record', name: 'is on record' }, { value: 'missing', name: 'is missing, though their country needs it' }]
const OPT_IN_DID = [
  { value: 'pressed', name: 'clicked the button' }, { value: 'counts', name: 'opted in, confirmed where asked' },
  { value: 'not-confirmed', name: 'have not confirmed' }, { value: 'fetched', name: 'fetched the file' },
]
const READ_BY = [{ value: 'reader', name: 'a reader open or a click' }, { value: 'uncertain', name: 'an uncertain open' }]
const COURSE_IS = [
  { value: 'inside', name: 'are inside' }, { value: 'finished', name: 'finished' }, { value: 'left', name: 'left it' },
  { value: 'ever', name: 'started it' }, { value: 'never', name: 'were never in it' },
]
const field = computed(() =>
  leaf.value.kind === 'field' ? parts.value.fields.find(({ id }) => leaf.value.kind === 'field' && id === leaf.value.fieldId) : undefined)
const segments = computed(() => parts.value.segments.filter(({ id }) => id !== props.segmentId))
const stepsOf = (courseId: number) => [{ value: '', name: 'before any step' }, ...(parts.value.courses.find(({ id }) =>
  id === courseId)?.steps ?? []).map((step, n) => ({ value: step.id, name: `before ${n + 1}: ${step.title}` }))]
const sources = computed(() => parts.value.sources.map(value => ({ value, name: saySource(value) })))
const touches = computed(() =>
  [{ id: 0, name: 'from anywhere' }, ...parts.value.touches.map(({ id, name }) => ({ id, name: `from ${name}` }))])
const BROUGHT_BY = [{ value: 'first', name: 'source is' }, { value: 'latest', name: 'source of latest opt-in is' }]
const keyOf = ({ kind, word }: SourceKey) => `${kind} ${word}`
/** Those there are, and the one that is asked about, which may not have brought anybody yet. */
const brought = computed(() => {
  const known = parts.value.brought.map(({ source, name }) => ({ key: keyOf(source), source, name }))
  const own = leaf.value.kind === 'brought' ? leaf.value.source : null
  return own && !known.some(({ key }) => key === keyOf(own))
    ? [...known, { key: keyOf(own), source: own, name: saySourceKey(own, () => undefined) }]
    : known
})
const results = computed(() => leaf.value.kind !== 'opted-in' ? [] : (parts.value.pages.find(({ id }) =>
  id === (leaf.value as { pageId: number }).pageId)?.results ?? []).map(({ id, name }) => ({ id, name: `led to ${name}` })))
/** Changes a part of the leaf as it stands. */
const set = (change: Record<string, unknown>) => leaf.value = { ...leaf.value, ...change } as Leaf
</script>

<template>
  <div class="leaf" role="group" :aria-label="label">
    <Select
      :model-value="choiceOf(leaf)" :options="groups" option-label="name" option-value="value" option-group-label="name"
      option-group-children="items" size="small" :aria-label="`${label}: about what`" class="about" @update:model-value="choose" />
    <template v-if="leaf.kind === 'tag'">
      <Select
        :model-value="leaf.tagId" :options="heldTags(parts)" option-label="name" option-value="id" size="small" filter
        :aria-label="`${label}: which tag`" @update:model-value="tagId => set({ tagId })" />
      <span class="second small">added</span>
      <StretchField :model-value="leaf.since" :label="label" any-time @update:model-value="since => set({ since })" />
    </template>
    <template v-else-if="leaf.kind === 'list'">
      <Select
        :model-value="leaf.listId ?? 0" :options="[{ id: 0, name: 'any list' }, ...parts.lists]" option-label="name" option-value="id"
        size="small"
        :aria-label="`${label}: which list`" @update:model-value="listId => set({ listId: listId || null })" />
      <Select
        :model-value="leaf.is" :options="LIST_IS" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: status`" @update:model-value="is => set({ is })" />
    </template>
    <Select
      v-else-if="leaf.kind === 'segment'" :model-value="leaf.segmentId" :options="segments" option-label="name" option-value="id"
      size="small" filter :aria-label="`${label}: which segment`" @update:model-value="segmentId => set({ segmentId })" />
    <MultiSelect
      v-else-if="leaf.kind === 'status'" :model-value="leaf.is" :options="STATUSES" option-label="name" option-value="value" display="chip"
      :show-toggle-all="false" size="small" placeholder="choose" :aria-label="`${label}: one of`" class="several"
      @update:model-value="is => set({ is })" />
    <InputNumber
      v-else-if="leaf.kind === 'score'" :model-value="leaf.atLeast" :min="1" :max="10000" :allow-empty="false" suffix=" points or more"
      size="small" class="points" :aria-label="`${label}: at least how many points`"
      @update:model-value="atLeast => set({ atLeast: atLeast ?? 1 })" />
    <Select
      v-else-if="leaf.kind === 'consent'" :model-value="leaf.is" :options="CONSENT_IS" option-label="name" option-value="value" size="small"
      :aria-label="`${label}: status`" @update:model-value="is => set({ is })" />
    <StretchField
      v-else-if="leaf.kind === 'arrived'" :model-value="leaf.when" :label="label" :any-time="false"
      @update:model-value="when => set({ when })" />
    <Select
      v-else-if="leaf.kind === 'source'" :model-value="leaf.is" :options="sources" option-label="name" option-value="value" size="small"
      filter :aria-label="`${label}: from where`" class="several" @update:model-value="is => set({ is })" />
    <template v-else-if="leaf.kind === 'opted-in'">
      <Select
        :model-value="leaf.did ?? 'pressed'" :options="OPT_IN_DID" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: result`" @update:model-value="did => set({ did })" />
      <Select
        :model-value="leaf.pageId" :options="parts.pages" option-label="name" option-value="id" size="small"
        :aria-label="`${label}: which page`" @update:model-value="pageId => set({ pageId, resultId: null })" />
      <Select
        v-if="results.length || leaf.resultId" :model-value="leaf.resultId ?? ''"
        :options="[{ id: '', name: 'whatever they answered' }, ...results, { id: NO_RESULT, name: 'led to no result page' }]"
        option-label="name" option-value="id" size="small" placeholder="whatever they answered"
        :aria-label="`${label}: where their answers led`" @update:model-value="resultId => set({ resultId: resultId || null })" />
      <Select
        v-if="parts.touches.length || leaf.touchId" :model-value="leaf.touchId ?? 0" :options="touches" option-label="name"
        option-value="id" size="small" filter :aria-label="`${label}: which source`" class="several"
        @update:model-value="touchId => set({ touchId: touchId || null })" />
      <StretchField :model-value="leaf.within" :label="label" any-time @update:model-value="within => set({ within })" />
    </template>
    <template v-else-if="leaf.kind === 'brought'">
      <Select
        :model-value="leaf.by" :options="BROUGHT_BY" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: the first time or the latest`" @update:model-value="by => set({ by })" />
      <Select
        :model-value="keyOf(leaf.source)" :options="brought" option-label="name" option-value="key" size="small" filter
        :aria-label="`${label}: which source`" class="several"
        @update:model-value="key => set({ source: brought.find(one => one.key === key)!.source })" />
    </template>
    <EmailLeaf v-else-if="leaf.kind === 'email'" v-model="leaf" :label="label" />
    <template v-else-if="leaf.kind === 'followed'">
      <Select
        :model-value="leaf.linkId" :options="parts.links" option-label="name" option-value="id" size="small" filter
        :aria-label="`${label}: which link`" class="several" @update:model-value="linkId => set({ linkId })" />
      <span class="second small">clicked at least</span>
      <InputNumber
        :model-value="leaf.times" :min="1" :max="1000" :allow-empty="false" :suffix="leaf.times === 1 ? ' time' : ' times'" size="small"
        class="few" :aria-label="`${label}: how many times`" @update:model-value="times => set({ times: times ?? 1 })" />
      <StretchField :model-value="leaf.within" :label="label" any-time @update:model-value="within => set({ within })" />
    </template>
    <template v-else-if="leaf.kind === 'rule-acted'">
      <Select
        :model-value="leaf.ruleId" :options="parts.rules" option-label="name" option-value="id" size="small" filter
        :aria-label="`${label}: which house rule`" class="several" @update:model-value="ruleId => set({ ruleId })" />
      <span class="second small">acted on them</span>
      <StretchField :model-value="leaf.within" :label="label" any-time @update:model-value="within => set({ within })" />
    </template>
    <template v-else-if="leaf.kind === 'last-read'">
      <Select
        :model-value="leaf.by" :options="READ_BY" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: what counts`" @update:model-value="by => set({ by })" />
      <StretchField :model-value="leaf.within" :label="label" :any-time="false" @update:model-value="within => set({ within })" />
    </template>
    <template v-else-if="leaf.kind === 'course'">
      <Select
        :model-value="leaf.courseId" :options="parts.courses" option-label="name" option-value="id" size="small"
        :aria-label="`${label}: which course`" @update:model-value="courseId => set({ courseId, stepId: null })" />
      <Select
        :model-value="leaf.is" :options="COURSE_IS" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: status`" @update:model-value="is => set({ is, stepId: null })" />
      <Select
        v-if="leaf.is === 'inside'" :model-value="leaf.stepId ?? ''" :options="stepsOf(leaf.courseId)" option-label="name"
        option-value="value" size="small" placeholder="before any step" :aria-label="`${label}: before which step`"
        @update:model-value="stepId => set({ stepId: stepId || null })" />
    </template>
    <PurchaseLeaf
      v-else-if="leaf.kind === 'purchase' || leaf.kind === 'spent' || leaf.kind === 'no-more' || leaf.kind === 'waits'" v-model="leaf"
      :label="label" />
    <template v-else-if="leaf.kind === 'country'">
      <MultiSelect
        :model-value="leaf.is" :options="countryOptions()" option-label="name" option-value="value" filter display="chip"
        :show-toggle-all="false" size="small" placeholder="choose" :aria-label="`${label}: one of`" class="several"
        @update:model-value="is => set({ is })" />
      <label class="small unknown"><Checkbox :model-value="leaf.unknown" binary @update:model-value="unknown => set({ unknown })" /> or not
        known</label>
    </template>
    <MultiSelect
      v-else-if="leaf.kind === 'zone'" :model-value="leaf.is" :options="zoneOptions()" option-label="name" option-value="value" filter
      display="chip" :show-toggle-all="false" size="small" placeholder="choose" :aria-label="`${label}: one of`" class="several"
      @update:model-value="is => set({ is })" />
    <FieldTest
      v-else-if="leaf.kind === 'field' && field" :model-value="leaf.test" :field="field" :label="label"
      @update:model-value="test => set({ test })" />
    <template v-else-if="leaf.kind === 'sample'">
      <InputNumber
        :model-value="leaf.hundredths / 100" :min="0" :max="100" :max-fraction-digits="2" :allow-empty="false" suffix=" %" size="small"
        :aria-label="`${label}: how many of a hundred`" class="few"
        @update:model-value="share => set({ hundredths: Math.round((share ?? 0) * 100) })" />
      <button type="button" class="link-button small" @click="set({ salt: (leaf.kind === 'sample' ? leaf.salt + 1 : 1) % 10_000 })">pick
        others</button>
    </template>
    <button type="button" class="off" :aria-label="`Remove ${label}`" @click="$emit('remove')">
      <i class="pi pi-times" aria-hidden="true" />
    </button>
  </div>
</template>

<style scoped>
.leaf { display: flex; align-items: center; gap: 6px; flex-wrap: wrap; padding: 5px 0; }
.about { width: 168px; }
.several { min-width: 180px; max-width: 420px; }
.few :deep(input) { width: 84px; }
.points :deep(input) { width: 140px; }
.unknown { display: inline-flex; align-items: center; gap: 6px; }
.off {
  width: 24px; height: 24px; margin-left: auto; border: 0; border-radius: 4px; background: none; color: var(--p-porch-ink-second);
  cursor: pointer;
}
.off .pi { font-size: 11px; }
.off:hover { background: var(--p-porch-brick-ground); color: var(--p-porch-brick); }
</style>
