<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { RULE_TEMPLATES, ruleOfTemplate } from '#core/rules/templates'
import { asksNothing, type Action, type Often, type RuleInput } from '#core/rules/rule'
import { sayRuleParts } from '#core/rules/say'
import { ownsEmails } from '~/composables/emailOwner'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useKeeping } from '~/composables/useKeeping'
import { provideRuleParts } from '~/composables/useParts'
import { sayPeople, saySome } from '#core/stats/say'
import { actionChoices, peopleOfRule, ruleFrom, ruleNamesFrom } from '~/rules/choices'
import { ruleTemplatePartsOf } from '~/rules/templates'
import { useFrame } from '~/stores/frame'
import ActionRow from '~/components/rule/ActionRow.vue'
import { ConditionEditor } from '~/editor/lazy'
import FiringsPanel from '~/components/rule/FiringsPanel.vue'
import FitsPanel from '~/components/rule/FitsPanel.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import RuleSentence from '~/components/rule/RuleSentence.vue'
import SidePanel from '~/components/SidePanel.vue'
import TryPanel from '~/components/rule/TryPanel.vue'
import WhenRow from '~/components/rule/WhenRow.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** One house rule, new or saved, as the sentence it is. */
const route = useRoute()
const frame = useFrame()
const id = route.params.id === 'new' ? null : Number(route.params.id)
ownsEmails(ref(id === null ? null : { kind: 'rule', id }))

const { parts, problem: partsProblem } = provideRuleParts()
const { data: view, problem: loading, load } = useFresh(async () => id === null ? null : api('GET /rules/:id', { at: { id } }))
/** Null until it is known, for a new one what the way here says. */
function asSaved(): RuleInput | null {
  if (!parts.value || (id !== null && !view.value)) return null
  const template = RULE_TEMPLATES[Number(route.query.template ?? -1)]
  const { when, who, then, often, on, note } = view.value
    ? view.value.rule
    : template ? ruleOfTemplate(template, ruleTemplatePartsOf(parts.value)) : ruleFrom(route.query, parts.value)
  return { when, who, then, often, on, note }
}
/** How the rules it is saved among could go in a circle, and whether that has been read and is meant. */
const circle = ref<string | null>(null)
let evenInCircle = false
async function send(body: RuleInput) {
  const whole = { ...body, evenInCircle }
  const outcome = await (id === null ? api('POST /rules', { body: whole }) : api('PUT /rules/:id', { at: { id }, body: whole }))
  circle.value = outcome.saved ? null : outcome.circle
  return outcome.saved ? outcome.id : null
}
const { typed, changed, busy, problem, save, remove } = useKeeping<RuleInput>({
  id, screen: '/house-rules', noun: 'rule', saved: asSaved, load, send, drop: at => api('DELETE /rules/:id', { at }),
  said: ({ on }) => on ? 'The rule is saved and at work' : 'The rule is saved, and off',
})
async function keep(inCircle: boolean) {
  evenInCircle = inCircle
  await save()
}
const takeAway = () => remove({
  header: 'Delete this rule?', message: 'It no longer acts. What it did stays in the histories.',
  acceptLabel: 'Delete the rule',
})
const says = computed(() => typed.value && parts.value ? sayRuleParts(typed.value, ruleNamesFrom(parts.value, frame.zone)) : null)

/* Its parts */

const asking = ref(false)
const narrowed = computed(() => asking.value || (typed.value !== null && !asksNothing(typed.value.who)))
const OFTEN: { value: Often['kind'], name: string }[] = [
  { value: 'each', name: 'each time it happens' }, { value: 'once', name: 'once per person' },
  { value: 'every', name: 'at most once in a number of days per person' },
]
const setOften = (kind: Often['kind']) => typed.value!.often = kind === 'every' ? { kind, days: 30 } : { kind }
function setAction(n: number, action: Action) {
  typed.value!.then[n] = action
}
function addAction() {
  typed.value!.then.push(actionChoices(parts.value!)[0]!.make())
}

const trying = ref(false)
const whoProblem = computed(() => problem.value?.fields.find(({ field }) => field.startsWith('who'))?.problem)
const thenProblem = (n: number) =>
  problem.value?.fields.find(({ field }) => field === `then.${n}` || field.startsWith(`then.${n}.`))?.problem
</script>

<template>
  <div>
    <ProblemNote v-if="loading || partsProblem" :of="loading || partsProblem" />
    <template v-else-if="typed && parts && says">
      <PageHead :title="id === null ? 'New house rule' : 'House rule'" :back="{ to: '/house-rules', name: 'House rules' }">
        <template v-if="!view">Reads like a sentence. It acts on what happens once it is saved.</template>
        <template v-else-if="view.line.missing.length">It does not work: something it names no longer exists.</template>
        <template v-else>
          {{ view.line.on ? 'At work' : 'Off' }}. In the last 30 days it acted
          <template v-if="view.line.times30">{{ saySome(view.line.times30, 'time', 'times') }}, on <NuxtLink
            :to="peopleOfRule(view.line.id)">{{ sayPeople(view.line.people30) }}</NuxtLink>.</template>
          <template v-else>not once.</template>
        </template>
        <template #actions>
          <ThingActions v-if="id !== null" kind="rule" :id="id" :to="one => `/house-rules/${one}`" />
          <Button v-if="id !== null" label="Delete" severity="secondary" @click="takeAway" />
          <Button label="Try it" icon="pi pi-eye" severity="secondary" @click="trying = true" />
          <Button
            :label="id === null ? 'Save the rule' : 'Save the changes'" :loading="busy" :disabled="id !== null && !changed"
            @click="keep(false)" />
        </template>
      </PageHead>
      <div class="columns two">
        <div class="stack">
          <section class="panel panel-body fields" aria-label="The rule">
            <ProblemNote :of="problem" general />
            <div v-if="circle" class="note lamp circle" role="alert">
              <p><strong>These rules could go in a circle:</strong> {{ circle }}.</p>
              <p class="small">Each rule acts once per person and event, so it would stop. Often one of these rules is not needed.</p>
              <Button label="Save it anyway" size="small" severity="secondary" @click="keep(true)" />
            </div>
            <div class="part">
              <h2>When</h2>
              <WhenRow v-model="typed.when" label="When" />
              <ProblemNote :of="problem" at="when" class="small" />
            </div>
            <div class="part">
              <h2>For whom</h2>
              <p v-if="!narrowed" class="second">Everyone it happens to.
                <button type="button" class="link-button" @click="asking = true">Only for some…</button></p>
              <ConditionEditor v-else v-model="typed.who" :segment-id="null" bare />
              <ProblemNote :of="whoProblem" line class="small" />
            </div>
            <div class="part">
              <h2>Actions, in this order</h2>
              <ActionRow
                v-for="(action, n) in typed.then" :key="n" :model-value="action" :label="`Action ${n + 1}`" :problem="thenProblem(n)"
                @update:model-value="next => setAction(n, next)" @remove="typed!.then.splice(n, 1)" />
              <ProblemNote :of="problem" at="then" class="small" />
              <button type="button" class="link-button add" @click="addAction">
                <i class="pi pi-plus small" aria-hidden="true" /> {{ typed.then.length ? 'and something else' : 'something' }}
              </button>
            </div>
            <div class="part line">
              <Select
                :model-value="typed.often.kind" :options="OFTEN" option-label="name" option-value="value" size="small"
                aria-label="How often" @update:model-value="setOften" />
              <InputNumber
                v-if="typed.often.kind === 'every'" v-model="typed.often.days" :min="1" :max="3650" :allow-empty="false" size="small"
                suffix=" days (24 hours)" aria-label="How many days" class="few" />
              <label class="tick"><Checkbox v-model="typed.on" binary /> at work</label>
            </div>
            <div class="field">
              <label for="rule-note">Notes (only you see them)</label>
              <InputText id="rule-note" v-model="typed.note" maxlength="300" />
            </div>
            <div class="says"><RuleSentence :said="says" /></div>
          </section>
          <FiringsPanel v-if="view" :firings="view.firings" />
        </div>
        <FitsPanel v-if="view" :id="id!" :fits="view.fits" :changed="changed" @begun="load" />
        <section v-else class="panel panel-body">
          <h2>From now on</h2>
          <p class="second">Once it is saved, you see how many people already match. You can let it act on them, too.</p>
        </section>
      </div>
      <SidePanel v-if="trying" label="Try the rule" @close="trying = false">
        <template #head><h2>What would happen?</h2></template>
        <p class="second">
          <template v-if="changed || id === null">With the rule as it is here, not saved yet.</template>
          <template v-else>With all rules as they are.</template>
        </p>
        <TryPanel :draft="{ id, rule: typed }" />
      </SidePanel>
    </template>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1fr) 290px; }
.part { display: grid; gap: 6px; }
.part > h2 { font-size: 14.5px; }
.add { justify-self: start; }
.line { display: flex; align-items: center; gap: 10px; flex-wrap: wrap; }
.few :deep(input) { width: 120px; }
.tick { display: inline-flex; align-items: center; gap: 6px; margin-left: auto; }
.says { padding: 10px 12px; border-radius: 6px; background: var(--p-porch-rail); }
.circle { display: grid; gap: 6px; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
