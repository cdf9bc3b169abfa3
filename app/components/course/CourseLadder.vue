<script setup lang="ts">
import { computed, ref } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import type { RuleNames } from '#core/rules/say'
import type { DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import type { LocalDate } from '#core/time/zone'
import AddStep from './AddStep.vue'
import StepBlock, { type Ladder } from './StepBlock.vue'
import StepLine from './StepLine.vue'
import StepRow from './StepRow.vue'
import StepSide from './StepSide.vue'

/** The steps of a course, one below the other with their dates and numbers: dragged, opened, or written in place. */
const steps = defineModel<DraftStep[]>({ required: true })
const props = defineProps<{
  known: Omit<Ladder, 'names'>, /** Null until they are there. */ names: RuleNames | null
  numberOf: (stepId: string) => number
  dateFields: { id: number, name: string }[], entryDateId: number | null
  /** When the sample joiner comes. */
  joinedAt: number, today: LocalDate, zone: string
}>()
const emit = defineEmits<{
  open: [stepId: string], add: [kind: DraftStep['kind'], stepId?: string, wayId?: string], addSeveral: []
  /** The sample joiner takes a path; and who took it is asked. */
  take: [stepId: string, wayId: string], who: [stepId: string, wayId: string]
  arrange: [stepId: string, wayId: string, steps: DraftStep[]]
}>()
const ladder = computed<Ladder | null>(() => props.names && { ...props.known, names: props.names })
const all = computed(() => allSteps<DraftStep>(steps.value))
/** Subjects and times are written in the ladder itself. */
const quick = ref(false)
</script>

<template>
  <div>
    <p v-if="all.some(step => step.kind === 'email')" class="quick">
      <button type="button" class="link-button" :aria-pressed="quick" @click="quick = !quick">
        <i class="pi small" :class="quick ? 'pi-check' : 'pi-pencil'" aria-hidden="true" />
        {{ quick ? 'Done' : 'Edit subjects and times in place' }}</button></p>
    <div class="ladder">
      <div v-if="!quick" class="titles small second" aria-hidden="true">
        <span class="right">When</span>
        <span />
        <span>What they get</span>
        <span class="right">Waiting</span>
        <span class="right">Sent</span>
        <span class="right">Reader opens</span>
        <span class="right">Clicked</span>
        <span class="right">Left</span>
      </div>
      <VueDraggable
        v-model="steps" tag="ol" class="steps" group="steps" handle=".grip" :animation="120" :clone="(one: DraftStep) => one">
        <!-- One element for each step: what is dragged out of the row must be all of it. -->
        <li v-for="step in steps" :key="step.id" class="item">
          <template v-if="step.kind === 'email' && quick">
            <StepSide :step="step" :date="known.date(step.id)" :joined-at="joinedAt" :workspace-zone="zone" />
            <StepLine
              :model-value="step" :number="numberOf(step.id)" :is-first="all[0]?.id === step.id" :date-fields="dateFields"
              :entry-date-id="entryDateId" :today="today" class="whole" />
          </template>
          <StepRow
            v-else-if="step.kind === 'email'" :step="step" :number="numberOf(step.id)" :date="known.date(step.id)" :joined-at="joinedAt"
            :workspace-zone="zone" :field-name="known.fieldName" :numbers="known.numbers(step.id)" :course-id="known.courseId"
            :open="step.id === known.openId" :problem="known.problem(step.id)"
            :not-readers-of="step.notIfReadId ? known.title(step.notIfReadId) : undefined" @open="emit('open', step.id)" />
          <div v-else-if="ladder" class="other">
            <StepSide :step="step" :date="known.date(step.id)" :joined-at="joinedAt" :workspace-zone="zone" />
            <StepBlock
              :step="step" :ladder="ladder" plain class="whole" @open="id => emit('open', id)" @add="(...what) => emit('add', ...what)"
              @take="(...what) => emit('take', ...what)" @arrange="(...what) => emit('arrange', ...what)"
              @who="(...what) => emit('who', ...what)" />
          </div>
        </li>
      </VueDraggable>
    </div>
    <p v-if="steps.length === 0" class="second">No steps yet.</p>
    <div class="more">
      <AddStep where="at the end of the course" several @add="kind => emit('add', kind)" @several="emit('addSeveral')" />
    </div>
  </div>
</template>

<style scoped>
.ladder {
  display: grid; grid-template-columns: 116px 24px minmax(220px, 1fr) repeat(5, minmax(52px, auto)); gap: 12px 10px; margin: 14px 0 0;
}
.quick { margin: 12px 0 -4px; text-align: right; }
.steps { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; gap: 12px 10px; margin: 0; padding: 0; list-style: none; }
.item, .other { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; }
.whole { grid-column: 3 / -1; }
.more { padding: 12px 0 0 150px; }
.titles { display: grid; grid-template-columns: subgrid; grid-column: 1 / -1; margin-bottom: -6px; }
.right { text-align: right; }
@media (max-width: 760px) {
  .ladder { grid-template-columns: 76px 18px minmax(0, 1fr); column-gap: 6px; }
  .titles { display: none; }
  .more { padding-left: 0; }
}
</style>
