<script setup lang="ts">
import { computed } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { isWritten } from '#core/message/blocks'
import { plainLine } from '#core/message/content'
import type { RuleNames } from '#core/rules/say'
import type { StepDate } from '#core/sequence/dates'
import type { DraftStep } from '#core/sequence/draft'
import { waysOf } from '#core/sequence/program'
import { sayMoment, sayWhen } from '#core/time/say'
import type { StepNumbers } from '#core/views/course'
import { sayStep, sayWay } from '~/courses/steps'
import { sayNumber, sayPeople } from '#core/stats/say'
import AddStep from './AddStep.vue'

/** What all steps of a ladder are drawn from. */
export interface Ladder {
  courseId: number
  names: RuleNames
  openId: string | null
  /** Which way the sample joiner takes, by the id of the step. */
  ways: ReadonlyMap<string, string>
  date(stepId: string): StepDate | undefined
  numbers(stepId: string): StepNumbers | undefined
  /** How many people took a way so far. */
  took(stepId: string, wayId: string): number
  title(stepId: string): string
  fieldName(fieldId: number): string
  problem(stepId: string): string | undefined
}

/** A step in a way of a fork or hold, or a fork or hold itself with its ways side by side. */
const props = defineProps<{ step: DraftStep, ladder: Ladder, /** It has its date beside it. */ plain?: boolean }>()
const emit = defineEmits<{ open: [
  stepId: string,
], add: [kind: DraftStep['kind'], stepId: string, wayId: string], take: [stepId: string, wayId: string], who: [
  stepId: string, wayId: string,
], /** The steps of a way, in another order or with others among them. */ arrange: [stepId: string, wayId: string, steps: DraftStep[]] }>()

const ways = computed(() => waysOf(props.step))
const waiting = computed(() => props.ladder.numbers(props.step.id)?.waiting ?? 0)
const sent = computed(() => props.ladder.numbers(props.step.id)?.sent ?? 0)
const date = computed(() => props.ladder.date(props.step.id))
const under = computed(() => props.step.kind === 'email' && isWritten(props.step.content)
  ? plainLine(props.step.content.subject)
  : props.step.kind === 'email' ? 'Not written yet: people wait before it' : null)
const last = computed(() => ways.value.at(-1)?.id)
const people = (number: string) => ({ path: '/subscribers', query: { course: props.ladder.courseId, step: props.step.id, number } })
</script>

<template>
  <div class="block" :class="[step.kind, { open: ladder.openId === step.id }]">
    <i v-if="!plain" class="pi pi-bars grip" aria-hidden="true" title="Drag to move" />
    <button
      :id="`step-${step.id}`" type="button" data-opens class="card" :class="{ empty: step.kind === 'email' && !isWritten(step.content) }"
      :aria-expanded="ladder.openId === step.id" @click="emit('open', step.id)">
      <strong>{{ sayStep(step, ladder.names, ladder.title) }}</strong>
      <span v-if="under" class="second cut">{{ under }}</span>
      <span class="second small">
        {{ sayWhen(step.when, ladder.fieldName) }}<template v-if="!plain && date?.plannedAt">:
          {{ sayMoment(date.plannedAt, date.zone) }}</template><template v-if="date?.limitAt">, until
          {{ sayMoment(date.limitAt, date.zone) }}
          at most</template>
      </span>
      <span v-if="step.paused" class="small">Paused: people wait before it</span>
      <span v-if="ladder.problem(step.id)" class="problem small">{{ ladder.problem(step.id) }}</span>
    </button>
    <p v-if="waiting || sent" class="figures small">
      <NuxtLink v-if="waiting" :to="people('waiting')">{{ sayPeople(waiting) }} waiting</NuxtLink>
      <template v-if="waiting && sent">, </template>
      <NuxtLink v-if="sent" :to="people('sent')">sent to {{ sayNumber(sent) }}</NuxtLink>
    </p>
    <div v-if="ways.length" class="ways">
      <section
        v-for="way in ways" :key="way.id" class="way" :class="{ sample: (ladder.ways.get(step.id) ?? last) === way.id }"
        :aria-label="sayWay(step, way.id, ladder.names)">
        <header>
          <button
            type="button" class="head" :aria-pressed="(ladder.ways.get(step.id) ?? last) === way.id"
            title="Show the dates that follow on this path"
            @click="emit('take', step.id, way.id)">{{ sayWay(step, way.id, ladder.names) }}</button>
          <button
            v-if="ladder.took(step.id, way.id)" type="button" class="link-button small"
            @click="emit('who', step.id, way.id)">{{ sayPeople(ladder.took(step.id, way.id)) }} so far</button>
          <span v-else class="second small">nobody so far</span>
        </header>
        <VueDraggable
          :model-value="way.steps" class="row-of-way" :class="{ none: !way.steps.length }" group="steps" handle=".grip" :animation="120"
          :clone="(one: DraftStep) => one" @update:model-value="(steps: DraftStep[]) => emit('arrange', step.id, way.id, steps)">
          <StepBlock v-for="inner in way.steps" :key="inner.id" :step="inner" :ladder="ladder" @open="id => emit('open', id)"
                     @add="(...what) => emit('add', ...what)" @take="(...what) => emit('take', ...what)" @who="(...what) => emit('who',
                                                                                                                                 ...what)"
                     @arrange="(...what) => emit('arrange', ...what)" />
        </VueDraggable>
        <AddStep :where="sayWay(step, way.id, ladder.names)" @add="kind => emit('add', kind, step.id, way.id)" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.block { display: grid; gap: 4px; min-width: 0; align-content: start; position: relative; }
.grip { position: absolute; top: 3px; right: 3px; padding: 7px; font-size: 11px; color: var(--p-porch-ink-third); cursor: grab; }
.row-of-way { display: grid; gap: 8px; align-content: start; min-width: 0; }
.row-of-way.none { min-height: 26px; }
.row-of-way.none::before { content: 'Goes straight on.'; font-size: 13px; color: var(--p-porch-ink-second); }
.row-of-way.none:has(> *)::before { content: none; }
.card {
  display: grid; gap: 1px; min-width: 0; padding: 8px 12px; text-align: left; color: inherit; background: var(--p-porch-paper);
  border: 1px solid var(--p-porch-line); border-radius: 8px; cursor: pointer; overflow-wrap: anywhere;
}
.card:hover { border-color: var(--p-porch-ink-third); }
.card.empty { border-style: dashed; background: transparent; }
.block.open > .card { border-color: var(--p-porch-door); box-shadow: inset 0 0 0 1px var(--p-porch-door); }
.card strong { font: 650 14.5px/1.35 var(--heading); }
/* What is no email is no letter on the table: a line beside it instead of a sheet under it. */
.hold > .card, .fork > .card, .do > .card, .jump > .card, .end > .card {
  background: transparent; border-width: 0 0 0 5px; border-style: double; border-color: var(--p-porch-ink-third); border-radius: 0;
  padding: 4px 12px;
}
.block > .grip + .card { padding-right: 28px; }
.figures { padding: 0 12px; }
.ways { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(210px, 100%), 1fr)); gap: 10px; padding: 2px 0 4px 5px; }
.way {
  display: grid; gap: 8px; align-content: start; min-width: 0; padding: 8px 10px 10px; border-radius: 8px;
  background: color-mix(in srgb, var(--p-porch-rail) 70%, transparent); border-top: 3px solid var(--p-porch-line);
}
.way.sample { border-top-color: var(--p-porch-lamp); }
.way header { display: flex; gap: 8px; justify-content: space-between; align-items: baseline; flex-wrap: wrap; }
.head {
  border: 0; background: none; padding: 2px 0; min-height: 24px; text-align: left; font: 650 13.5px/1.35 var(--body); color: inherit;
  cursor: pointer; overflow-wrap: anywhere;
}
.head:hover { text-decoration: underline; }
</style>
