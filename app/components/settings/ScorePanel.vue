<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { decayed, SCORED_KINDS, SCORED_WORDS, type ScoreRule } from '#core/score/score'
import { DAY } from '#core/time/zone'
import type { Condition } from '#core/audience/condition'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useUntil } from '~/composables/useUntil'
import { putBack, useUndo } from '~/stores/undo'
import PeopleNumber from '~/components/PeopleNumber.vue'
import TermTip from '~/components/TermTip.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What brings points, how they fade, and which sums are worth an event. */
const undo = useUndo()
const typed = ref<ScoreRule | null>(null)
const marks = ref('')
const { data: view, problem: loading, load } = useFresh(async () => {
  const score = await api('GET /score')
  if (typed.value === null) show(score.rule)
  return score
})
function show(rule: ScoreRule) {
  typed.value = JSON.parse(JSON.stringify(rule)) as ScoreRule
  marks.value = rule.thresholds.join(', ')
}
useUntil(() => view.value?.recalculating === true, load)
const { busy, problem, attempt } = useAttempt()
const wrong = ref('')
async function save() {
  const thresholds = marks.value.split(/[\s,;]+/).filter(Boolean).map(Number)
  wrong.value = thresholds.some(one => !Number.isInteger(one) || one < 1) ? 'Whole numbers, with commas between them, like 15, 40.' : ''
  if (wrong.value) return
  const before = view.value!.rule
  const keep = (body: ScoreRule) => attempt(async () => {
    view.value = await api('PUT /score', { body })
    show(view.value.rule)
  })
  if (!await keep({ ...typed.value!, thresholds })) return
  const { rule } = view.value!
  undo.did({ said: 'The points are saved. Scores are being recalculated.', undo: () => putBack(
    async () => (await api('GET /score')).rule, rule, async () => {
      if (!await keep(before)) throw problem.value!
    },
  ) })
}
const fades = computed(() => typed.value ? [30, 90, 365].map(days =>
  `after ${days} days ${(decayed(100, 0, days * DAY, typed.value!.halfLifeDays)).toLocaleString('en-GB', { maximumFractionDigits: 0 })}`).join(', ') : '')
const where = (atLeast: number) => JSON.stringify({ kind: 'all', of: [{ kind: 'score', atLeast }] } satisfies Condition)
</script>

<template>
  <section class="panel" aria-labelledby="score">
    <h2 id="score"><TermTip of="score">Score</TermTip></h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <form v-else-if="typed && view" class="panel-body fields" @submit.prevent="save">
      <p class="second small">Points for what people do. They lose half their value with every half-life, so a score shows interest now.</p>
      <div class="kinds">
        <template v-for="kind in SCORED_KINDS" :key="kind">
          <label :for="`points-${kind}`">{{ SCORED_WORDS[kind] }}</label>
          <InputNumber
            :model-value="typed.points[kind] ?? 0" :input-id="`points-${kind}`" :min="-100" :max="100" :allow-empty="false" size="small"
            @update:model-value="points => typed!.points[kind] = points ?? 0" />
        </template>
      </div>
      <div class="field">
        <label for="half-life">Half-life, in days (24 hours)</label>
        <InputNumber v-model="typed.halfLifeDays" input-id="half-life" :min="1" :max="3650" :allow-empty="false" class="narrow" />
        <p class="hint">Of 100 points, this is left: {{ fades }}.</p>
      </div>
      <div class="field">
        <label for="thresholds">Reaching these scores starts house rules and appears in histories</label>
        <InputText id="thresholds" v-model="marks" maxlength="100" :invalid="!!wrong" />
        <ProblemNote :of="wrong" line />
      </div>
      <p v-if="view.recalculating" class="small second" role="status">Scores are being recalculated.</p>
      <p v-else class="small"><template v-for="(one, n) in view.standing" :key="one.least"><template v-if="n">, </template>
        <PeopleNumber
          :people="one.people" :query="{ where: where(one.least) }" /> <span class="second">with {{ one.least }} points or more</span>
      </template>.</p>
      <ProblemNote :of="problem" line class="small" />
      <div><Button type="submit" label="Save the points" severity="secondary" :loading="busy" /></div>
    </form>
  </section>
</template>

<style scoped>
.kinds { display: grid; grid-template-columns: minmax(0, 1fr) 84px; gap: 6px 12px; align-items: center; }
.kinds :deep(input) { width: 84px; text-align: right; }
.narrow :deep(input) { width: 110px; }
</style>
