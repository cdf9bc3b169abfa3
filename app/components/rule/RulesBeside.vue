<script setup lang="ts">
import { computed, ref } from 'vue'
import { useFresh } from '~/composables/useFresh'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { provideRuleParts } from '~/composables/useParts'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { newRule, TRIGGERS, TRIGGER_KINDS, type Action, type TriggerKind } from '#core/rules/rule'
import type { ThingKind } from '#core/things'
import type { SavedRule } from '#core/views/rules'
import { actionChoices, newWhen, THING_WORDS, WHEN_WORDS } from '~/rules/choices'
import { useFrame } from '~/stores/frame'
import ActionRow from './ActionRow.vue'
import RuleSentence from './RuleSentence.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The house rules about a thing, beside it; and making one where the thought comes up. */
const props = withDefaults(defineProps<{ kind: ThingKind, id: number, panel?: boolean }>(), { panel: true })
const frame = useFrame()
const { data: rules, load } = useFresh(() => api('GET /rules'), () => [props.kind, props.id])
const { parts } = provideRuleParts()
const about = computed(() =>
  (rules.value ?? []).filter(rule => rule.about.some(thing => thing.kind === props.kind && thing.id === props.id)))
const kinds = computed(() => TRIGGER_KINDS.filter(kind => TRIGGERS[kind].thing === props.kind
  && (kind !== 'date-arrived' || parts.value?.fields.find(({ id }) => id === props.id)?.kind === 'date')))

const when = ref<TriggerKind | null>(null)
const action = ref<Action | null>(null)
const { busy, problem, attempt } = useAttempt()
const circle = ref<string | null>(null)
function begin() {
  when.value = kinds.value.find(kind => kind === 'finished-course') ?? kinds.value[0]!
  action.value = actionChoices(parts.value!)[0]!.make()
  circle.value = null
}
const addressOfMore = computed(() => ({ path: '/house-rules/new', query: { when: when.value, thing: props.id } }))
async function save() {
  let saved: SavedRule | null = null
  const rule = newRule({ ...newWhen(when.value!, parts.value!), thingId: props.id }, [action.value!])
  if (!await attempt(async () => {
    saved = await api('POST /rules', { body: rule })
  })) return
  const outcome = saved as SavedRule | null
  circle.value = outcome && !outcome.saved ? outcome.circle : null
  if (!outcome?.saved) return
  when.value = null
  await Promise.all([load(), frame.changed()])
}
</script>

<template>
  <section :class="panel ? 'panel panel-body' : 'plain'" aria-label="House rules">
    <div class="head">
      <h2>House rules</h2>
      <button v-if="when === null && kinds.length" type="button" class="link-button" :disabled="!parts" @click="begin">
        <i class="pi pi-plus small" aria-hidden="true" /> a rule</button>
    </div>
    <p v-if="!about.length && when === null" class="second small">No rules yet. A rule says what is done at once when something happens
      with this
      {{ THING_WORDS[kind].one }}.</p>
    <p v-for="rule in about" :key="rule.id" class="one small" :class="{ off: !rule.on }">
      <NuxtLink :to="`/house-rules/${rule.id}`"><RuleSentence :said="rule.said" /></NuxtLink>
      <span v-if="!rule.on" class="second"> off</span>
    </p>
    <form v-if="when !== null && parts && action" class="make" @submit.prevent="save">
      <p class="line">
        <span class="second">When someone</span>
        <Select v-model="when" :options="kinds.map(value => ({ value, name: WHEN_WORDS[value] }))" option-label="name" option-value="value"
                size="small" aria-label="What happens" />
      </p>
      <ActionRow v-model="action" label="What is done" @remove="when = null" />
      <ProblemNote :of="problem" line first class="small" />
      <p v-if="circle" class="problem small" role="alert">This could go in a circle: {{ circle }}. <NuxtLink :to="addressOfMore">Open it
        as a full rule</NuxtLink>, if you mean it.</p>
      <p class="line">
        <Button type="submit" label="Save the rule" size="small" :loading="busy" />
        <NuxtLink :to="addressOfMore" class="small">more options</NuxtLink>
      </p>
    </form>
  </section>
</template>

<style scoped>
.head { display: flex; align-items: baseline; justify-content: space-between; gap: 10px; }
.head h2 { font-size: 14.5px; padding: 0; border: 0; }
.one { padding: 4px 0; }
.one :deep(.sentence) { display: inline; }
.one a { color: inherit; text-decoration: none; }
.one a:hover { text-decoration: underline; }
.one.off, .one.off :deep(.done) { color: var(--p-porch-ink-second); }
.make { display: grid; gap: 6px; margin-top: 6px; padding: 10px; border-radius: 6px; background: var(--p-porch-rail); }
.line { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
</style>
