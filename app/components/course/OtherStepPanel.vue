<script setup lang="ts">
import { computed } from 'vue'
import SelectButton from 'primevue/selectbutton'
import { ACTION_KINDS, type Action } from '#core/rules/rule'
import type { StepDate } from '#core/sequence/dates'
import type { DraftEmail, DraftFork, DraftStep } from '#core/sequence/draft'
import type { Until } from '#core/sequence/program'
import { EVERYBODY } from '#core/audience/condition'
import { sayMoment, sayZone } from '#core/time/say'
import type { LocalDate } from '#core/time/zone'
import { freshId } from '~/courses/steps'
import { actionChoices } from '~/rules/choices'
import { useRuleParts } from '~/composables/useParts'
import ActionRow from '~/components/rule/ActionRow.vue'
import WhenRow from '~/components/rule/WhenRow.vue'
import { ConditionEditor } from '~/editor/lazy'
import SelectField from '~/components/SelectField.vue'
import SidePanel from '~/components/SidePanel.vue'
import SpanField from './SpanField.vue'
import StepFoot, { type StepPlace } from './StepFoot.vue'
import WhenForm from './WhenForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import TermTip from '~/components/TermTip.vue'

/** A step of a course that is no email: what it waits for, asks, does, or where it leads. */
defineProps<{
  title: string
  isFirst: boolean
  place: StepPlace
  date: StepDate | undefined
  dateFields: { id: number, name: string }[]
  /** The date by which people come in; null for none. */
  entryDateId: number | null
  today: LocalDate
  problem: string | undefined
  /** Every other step, to jump to. */
  others: { id: string, name: string }[]
  /** Its emails, one of which a hold can be about. */
  emails: { id: string, name: string }[]
}>()
const step = defineModel<Exclude<DraftStep, DraftEmail>>({ required: true })
defineEmits<{ move: [by: -1 | 1], into: [rowKey: string], remove: [], copy: [], close: [] }>()

const parts = useRuleParts()
const KINDS = ACTION_KINDS.filter(kind => kind !== 'email')
const ZONES: { value: DraftStep['zone'], name: string }[] = [
  { value: 'workspace', name: 'the workspace’s' }, { value: 'subscriber', name: 'the reader’s own, where known' },
]
const UNTIL = [{ value: 'event', name: 'something happens' }, { value: 'condition', name: 'something is true of them' }]

const set = (change: Record<string, unknown>) => step.value = { ...step.value, ...change } as typeof step.value
const until = (kind: Until['kind']) =>
  set({ until: kind === 'event' ? { kind, when: { kind: 'clicked', thingId: null } } : { kind, who: EVERYBODY } })
const actions = computed(() => step.value.kind === 'do' ? step.value.then : [])
const setAction = (n: number, action: Action) => set({ then: actions.value.map((one, at) => at === n ? action : one) })
const addAction = () =>
  set({ then: [...actions.value, actionChoices(parts.value).find(({ value }) => KINDS.includes(value as typeof KINDS[number]))!.make()] })
const ways = computed<DraftFork['ways']>(() => step.value.kind === 'fork' ? step.value.ways : [])
const setWay = (n: number, change: Partial<DraftFork['ways'][number]>) =>
  set({ ways: ways.value.map((way, at) => at === n ? { ...way, ...change } : way) })
const earlier = (n: number) => set({ ways: ways.value.map((way, at) => at === n - 1 ? ways.value[n] : at === n ? ways.value[n - 1] : way) })
</script>

<template>
  <SidePanel :label="title" @close="$emit('close')">
    <template #head>
      <h2><TermTip v-if="step.kind === 'hold' || step.kind === 'fork'" :of="step.kind">{{ title }}</TermTip><template
        v-else>{{ title }}</template></h2>
    </template>
    <div class="fields">
      <ProblemNote :of="problem" />
      <template v-if="step.kind === 'hold'">
        <div class="field">
          <span class="label">People wait here until</span>
          <SelectButton
            :model-value="step.until.kind" :options="UNTIL" option-label="name" option-value="value" :allow-empty="false" size="small"
            aria-label="Waiting for" @update:model-value="until" />
        </div>
        <WhenRow
          v-if="step.until.kind === 'event'" :model-value="step.until.when" label="Until" :emails="emails"
          @update:model-value="when => set({ until: { kind: 'event', when } })" />
        <ConditionEditor
          v-else :model-value="step.until.who" :segment-id="null" @update:model-value="who => set({ until: { kind: 'condition', who } })" />
        <div class="line">
          <span>but at most</span>
          <SpanField :model-value="step.atMost" label="At most" @update:model-value="atMost => set({ atMost })" />
        </div>
        <p class="second small">The next step counts from when it happened, or from the limit. If it was already true when they arrived,
          they continue at once. Exactly at the limit still counts.</p>
      </template>
      <template v-else-if="step.kind === 'fork'">
        <p class="second small">Checked when people arrive here. They take the first path that fits; everyone else takes the last one.</p>
        <section v-for="(way, n) in ways" :key="way.id" class="way" :aria-label="`Path ${n + 1}`">
          <div class="line">
            <h3>Path {{ n + 1 }}, for people</h3>
            <button v-if="n > 0" type="button" class="link-button small" @click="earlier(n)">move it up</button>
            <button type="button" class="link-button small brick-text last" :disabled="way.steps.length > 0"
                    :title="way.steps.length ? 'Remove its steps first' : undefined"
                    @click="set({ ways: ways.filter((_, at) => at !== n) })">Remove this path</button>
          </div>
          <ConditionEditor :model-value="way.who" :segment-id="null" bare @update:model-value="who => setWay(n, { who })" />
        </section>
        <p>
          <button type="button" class="link-button" @click="set({ ways: [...ways, { id: freshId(), who: EVERYBODY, steps: [] }] })">
            <i class="pi pi-plus small" aria-hidden="true" /> another path</button>
        </p>
      </template>
      <template v-else-if="step.kind === 'do'">
        <ActionRow
          v-for="(action, n) in step.then" :key="n" :model-value="action" :label="`Action ${n + 1}`" :kinds="KINDS"
          @update:model-value="next => setAction(n, next)" @remove="set({ then: actions.filter((_, at) => at !== n) })" />
        <p>
          <button type="button" class="link-button" @click="addAction">
            <i class="pi pi-plus small" aria-hidden="true" /> {{ step.then.length ? 'and something else' : 'something' }}
          </button>
        </p>
      </template>
      <template v-else-if="step.kind === 'jump'">
        <SelectField :model-value="step.toId" label="They continue at" :options="others.map(({ id, name }) => ({ value: id, name }))"
                     placeholder="which step" @update:model-value="toId => set({ toId })" />
        <p class="second small">Nobody gets the same email twice: people who pass it again skip it. A loop must contain some time or a
          hold.</p>
      </template>
      <p v-else class="second">This ends the course.</p>

      <div class="field">
        <span class="label">When</span>
        <WhenForm
          :model-value="step.when" :is-first="isFirst" :date-fields="dateFields" :entry-date-id="entryDateId" :today="today"
          @update:model-value="when => set({ when })" />
        <p class="hint" aria-live="polite">
          <template v-if="date?.plannedAt">For the sample joiner: {{ sayMoment(date.plannedAt, date.zone) }},
            {{ sayZone(date.zone) }}<template v-if="date.limitAt">, and until {{ sayMoment(date.limitAt, date.zone) }} at
              most</template>.</template>
          <template v-else>The sample joiner does not reach this step.</template>
        </p>
      </div>
      <SelectField
        v-if="step.when.kind !== 'at-once' && step.when.kind !== 'elapsed'" :model-value="step.zone" label="Time zone"
        :options="ZONES" @update:model-value="zone => set({ zone })" />
      <StepFoot :step="step" :place="place" what="step" @move="by => $emit('move', by)" @into="rowKey => $emit('into', rowKey)"
                @remove="$emit('remove')" @copy="$emit('copy')" @pause="on => set({ paused: on || undefined })" />
    </div>
  </SidePanel>
</template>

<style scoped>
.line { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
.way { display: grid; gap: 6px; padding: 10px 12px 12px; border-radius: 8px; background: var(--p-porch-rail); }
.way h3 { font-size: 14.5px; }
.last { margin-left: auto; }
.brick-text { color: var(--p-porch-brick); }
</style>
