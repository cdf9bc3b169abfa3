<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import ToggleSwitch from 'primevue/toggleswitch'
import { MOMENTS } from '#core/rules/rule'
import { MOMENT_WORDS } from '#core/rules/say'
import type { RuleLine } from '#core/views/rules'
import { WEEKS } from '#core/views/weeks'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useShelf } from '~/composables/useArchive'
import { provideRuleParts } from '~/composables/useParts'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import { useUndo } from '~/stores/undo'
import { peopleOfRule, THING_WORDS } from '~/rules/choices'
import PageHead from '~/components/PageHead.vue'
import StateDot from '~/components/StateDot.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import RuleTemplates from '~/components/rule/RuleTemplates.vue'
import RuleSentence from '~/components/rule/RuleSentence.vue'
import SparkBars from '~/components/SparkBars.vue'
import SidePanel from '~/components/SidePanel.vue'
import TryPanel from '~/components/rule/TryPanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const { data: rules, problem, load } = useFresh(() => api('GET /rules'))
const { shown: inSight, away, showsAway } = useShelf('rule', () => rules.value)
const { data: weeks } = useFresh(() => api('GET /weeks/:kind', { at: { kind: 'rule' } }))
const countsOf = computed(() => new Map(weeks.value?.rows.map(({ id, counts }) => [id, counts])))
const NONE = Array<number>(WEEKS).fill(0)
const { parts } = provideRuleParts()
const sought = ref('')
const trying = ref(false)
const copying = ref(false)
const { problem: refused, attempt } = useAttempt()
const undo = useUndo()

const text = ({ said, note }: RuleLine) => [said.when, said.who, ...said.then, note].join(' ').toLowerCase()
const STATES = [
  { name: 'At work', dot: 'on' as const, words: 'at work', is: (rule: RuleLine) => rule.on && rule.missing.length === 0 },
  { name: 'Off', dot: 'off' as const, words: 'off', is: (rule: RuleLine) => !rule.on && rule.missing.length === 0 },
  { name: 'Does not work', dot: 'trouble' as const, words: 'does not work', is: (rule: RuleLine) => rule.missing.length > 0 },
]
const ORDERS = [
  { name: 'Most active first', compare: (a: RuleLine, b: RuleLine) => b.times30 - a.times30 },
  { name: 'Last made first', compare: (a: RuleLine, b: RuleLine) => b.id - a.id },
]
const ANY = -1
const states = [{ value: ANY, name: 'Any status' }, ...STATES.map(({ name }, value) => ({ value, name }))]
const orders = [{ value: ANY, name: 'In the order made' }, ...ORDERS.map(({ name }, value) => ({ value, name }))]
const state = ref(ANY)
const order = ref(ANY)
const shown = computed(() => {
  const is = STATES[state.value]?.is
  const found = inSight.value.filter(rule => (!is || is(rule)) && text(rule).includes(sought.value.trim().toLowerCase()))
  return order.value === ANY ? found : [...found].sort(ORDERS[order.value]!.compare)
})
const stateOf = (rule: RuleLine) => STATES.find(({ is }) => is(rule))!
/** So few are in sight at once. */
const FEW = 4
const moments = computed(() => MOMENTS.map(moment => ({ moment, rules: shown.value.filter(rule => rule.moment === moment) }))
  .filter(({ rules: some }) => some.length > 0))
const standing = computed(() => {
  const all = rules.value ?? []
  const on = all.filter(rule => rule.on && rule.missing.length === 0).length
  return all.length === 0
    ? 'What happens at once when someone does something.'
    : `${saySome(all.length, 'rule', 'rules')}, ${on} at work; in the last 30 days they acted ${sayNumber(all.reduce((sum, { times30 }) => sum + times30, 0))} times.`
})
async function switchRule({ id }: RuleLine, on: boolean) {
  const turn = (to: boolean) => api('POST /rules/:id/switch', { at: { id }, body: { on: to } })
  if (await attempt(() => turn(on))) undo.did({ said: on ? 'The rule is on.' : 'The rule is off.', undo: () => turn(!on) })
  await load()
}
</script>

<template>
  <div>
    <PageHead title="House rules" how="house-rule">
      {{ standing }}
      <template #actions>
        <Button label="Copy a template" severity="secondary" :disabled="!parts" @click="copying = true" />
        <Button label="Try them" icon="pi pi-eye" severity="secondary" :disabled="!parts" @click="trying = true" />
        <Button label="New rule" @click="navigateTo('/house-rules/new')" />
      </template>
    </PageHead>
    <ProblemNote :of="problem ?? refused" />
    <div v-if="rules" class="stack">
      <div v-if="rules.length >= FEW || away.length" class="tools">
        <template v-if="rules.length >= FEW">
          <InputText v-model="sought" size="small" placeholder="Search any word" aria-label="Find a rule" class="find" />
          <Select v-model="state" :options="states" option-label="name" option-value="value" size="small" aria-label="Status" />
          <Select v-model="order" :options="orders" option-label="name" option-value="value" size="small" aria-label="Order" />
        </template>
        <ShelfSwitch v-model="showsAway" :away="away.length" />
      </div>
      <section v-for="{ moment, rules: some } in moments" :key="moment" class="panel" :aria-labelledby="moment">
        <h2 :id="moment">{{ MOMENT_WORDS[moment] }}</h2>
        <div v-for="rule in some" :key="rule.id" class="row rule" :class="{ resting: !rule.on }">
          <ToggleSwitch
            :model-value="rule.on" :aria-label="`${rule.said.when}: at work`" @update:model-value="on => switchRule(rule, on)" />
          <div class="says">
            <NuxtLink :to="`/house-rules/${rule.id}`" class="open"><RuleSentence :said="rule.said" /></NuxtLink>
            <p v-if="rule.missing.length" class="small brick-text">It does not work: a
              {{ rule.missing.map(kind => THING_WORDS[kind].one).join(' and a ') }} it names no longer exists.</p>
            <p class="second small under">
              <StateDot :is="stateOf(rule).dot" :words="stateOf(rule).words" />
              <span v-if="rule.note">{{ rule.note }}</span>
              <span v-else-if="rule.shortForm">Part of the tag’s own settings.</span>
            </p>
          </div>
          <SparkBars v-if="weeks" :counts="countsOf.get(rule.id) ?? NONE" words="Times it acted" />
          <p class="small second count">
            <template v-if="rule.times30">
              {{ saySome(rule.times30, 'time', 'times') }}, on
              <NuxtLink :to="peopleOfRule(rule.id)">{{ sayPeople(rule.people30) }}</NuxtLink>
            </template>
            <template v-else>not in 30 days</template>
          </p>
        </div>
      </section>
      <p v-if="rules.length && !moments.length" class="panel panel-body second">
        {{ sought ? `No rule has “${sought}” in it.` : state === ANY ? 'All of them are archived.' : 'None has this status.' }}</p>
      <section v-if="!rules.length" class="panel panel-body">
        <h2>Make the first rule</h2>
        <p class="second">For example: when someone clicks the link “coptic”, add the tag “likes: coptic”. What takes time, like an email
          two days later, belongs in a course.</p>
      </section>
      <section v-if="!rules.length && parts" class="panel" aria-labelledby="ready-rules">
        <h2 id="ready-rules">Start from a template</h2>
        <div class="panel-body"><RuleTemplates /></div>
      </section>
    </div>
    <SidePanel v-if="trying && parts" label="Try the rules" @close="trying = false">
      <template #head><h2>What would happen?</h2></template>
      <TryPanel :draft="null" />
    </SidePanel>
    <SidePanel v-if="copying && parts" label="Ready rules" @close="copying = false">
      <template #head><h2>Rule templates</h2></template>
      <RuleTemplates />
    </SidePanel>
  </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.tools > :last-child:not(.find, .p-select) { margin-left: auto; }
.find { width: 248px; }
.rule { display: grid; grid-template-columns: auto minmax(0, 1fr) 108px 150px; gap: 14px; align-items: start; }
.rule :deep(.p-toggleswitch) { margin-top: 1px; }
.resting .says, .resting .says :deep(.done) { color: var(--p-porch-ink-second); }
.open { color: inherit; text-decoration: none; }
.open:hover :deep(.sentence) { text-decoration: underline; text-decoration-color: var(--p-porch-line); }
.under { display: flex; flex-wrap: wrap; gap: 2px 14px; }
.count { white-space: nowrap; padding-top: 2px; }
.brick-text { color: var(--p-porch-brick); }
@media (max-width: 560px) { .rule { grid-template-columns: auto minmax(0, 1fr); } .rule > :nth-child(n + 3) { grid-column: 2; } }
</style>
