<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
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
import { sayPeople, saySome } from '~/words/say'
import { peopleOfRule, THING_WORDS } from '~/rules/choices'
import PageHead from '~/components/PageHead.vue'
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

const text = ({ said, note }: RuleLine) => [said.when, said.who, ...said.then, note].join(' ').toLowerCase()
const shown = computed(() => inSight.value.filter(rule => text(rule).includes(sought.value.trim().toLowerCase())))
const moments = computed(() => MOMENTS.map(moment => ({ moment, rules: shown.value.filter(rule => rule.moment === moment) }))
  .filter(({ rules: some }) => some.length > 0))
const standing = computed(() => {
  const all = rules.value ?? []
  const on = all.filter(rule => rule.on && rule.missing.length === 0).length
  return all.length === 0
    ? 'What is done at once when something happens to someone.'
    : `${saySome(all.length, 'rule', 'rules')}, ${on} at work; in the last 30 days they acted ${all.reduce((sum, { times30 }) => sum + times30, 0).toLocaleString('en-GB')} times.`
})
async function switchRule(rule: RuleLine, on: boolean) {
  await attempt(() => api('POST /rules/:id/switch', { at: { id: rule.id }, body: { on } }))
  await load()
}
</script>

<template>
  <div>
    <PageHead title="House rules" how="house-rule">
      {{ standing }}
      <template #actions>
        <Button label="Copy a ready one" severity="secondary" :disabled="!parts" @click="copying = true" />
        <Button label="Try them" icon="pi pi-eye" severity="secondary" :disabled="!parts" @click="trying = true" />
        <Button label="New rule" @click="navigateTo('/house-rules/new')" />
      </template>
    </PageHead>
    <ProblemNote :of="problem ?? refused" />
    <div v-if="rules" class="stack">
      <InputText
        v-if="rules.length > 5" v-model="sought" size="small" placeholder="any word of a rule" aria-label="Find a rule" class="find" />
      <section v-for="{ moment, rules: some } in moments" :key="moment" class="panel" :aria-labelledby="moment">
        <h2 :id="moment">{{ MOMENT_WORDS[moment] }}</h2>
        <div v-for="rule in some" :key="rule.id" class="row rule" :class="{ resting: !rule.on }">
          <ToggleSwitch
            :model-value="rule.on" :aria-label="`${rule.said.when}: at work`" @update:model-value="on => switchRule(rule, on)" />
          <div class="says">
            <NuxtLink :to="`/house-rules/${rule.id}`" class="open"><RuleSentence :said="rule.said" /></NuxtLink>
            <p v-if="rule.missing.length" class="small brick-text">It stands still: a
              {{ rule.missing.map(kind => THING_WORDS[kind].one).join(' and a ') }} that it names no longer exists.</p>
            <p v-if="rule.note" class="second small">{{ rule.note }}</p>
            <p v-else-if="rule.shortForm" class="second small">Stands on the tag as what follows from it.</p>
          </div>
          <SparkBars v-if="weeks" :counts="countsOf.get(rule.id) ?? NONE" words="Times it acted" />
          <p class="small second count">
            <template v-if="rule.times30">
              {{ saySome(rule.times30, 'time', 'times') }}, on
              <NuxtLink :to="peopleOfRule(rule.id)">{{ sayPeople(rule.people30) }}</NuxtLink>
            </template>
            <template v-else>{{ rule.on ? 'not in 30 days' : 'off' }}</template>
          </p>
        </div>
      </section>
      <p v-if="rules.length && !moments.length && sought" class="panel panel-body second">No rule has “{{ sought }}” in it.</p>
      <section v-if="away.length" class="panel"><ShelfSwitch v-model="showsAway" :away="away.length" /></section>
      <section v-if="!rules.length" class="panel panel-body">
        <h2>Make the first rule</h2>
        <p class="second">For example: when someone follows the link “coptic”, give the tag “likes: coptic”. What takes time, like an email two days later, belongs to a course.</p>
        <p class="first">
          <button type="button" class="link-button" :disabled="!parts" @click="copying = true">Copy one of ten ready ones, each with its
            reason</button>
        </p>
      </section>
    </div>
    <SidePanel v-if="trying && parts" label="Try the rules" @close="trying = false">
      <template #head><h2>What would happen?</h2></template>
      <TryPanel :draft="null" />
    </SidePanel>
    <SidePanel v-if="copying && parts" label="Ready rules" @close="copying = false">
      <template #head><h2>Ready rules, to be copied</h2></template>
      <RuleTemplates />
    </SidePanel>
  </div>
</template>

<style scoped>
.find { width: 280px; }
.rule { display: grid; grid-template-columns: auto minmax(0, 1fr) 108px 150px; gap: 14px; align-items: start; }
.rule :deep(.p-toggleswitch) { margin-top: 1px; }
.resting .says { opacity: 0.72; }
.open { color: inherit; text-decoration: none; }
.open:hover :deep(.sentence) { text-decoration: underline; text-decoration-color: var(--p-porch-line); }
.count { white-space: nowrap; padding-top: 2px; }
.brick-text { color: var(--p-porch-brick); }
.first { padding-top: 8px; }
@media (max-width: 560px) { .rule { grid-template-columns: auto minmax(0, 1fr); } .rule > :nth-child(n + 3) { grid-column: 2; } }
</style>
