<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import type { RuleInput, Trigger } from '#core/rules/rule'
import type { TriedView } from '#core/views/rules'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useNewest } from '~/composables/useNewest'
import { useRuleParts } from '~/composables/useParts'
import { newWhen } from '~/rules/choices'
import PersonField, { type PickedPerson } from '~/components/PersonField.vue'
import ChainLines from './ChainLines.vue'
import WhenRow from './WhenRow.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Picks a real person and an event, and shows what the rules would do. Nothing is changed by it. */
const props = defineProps<{ draft: { id: number | null, rule: RuleInput } | null }>()
const parts = useRuleParts()

const person = ref<PickedPerson | null>(null)

const own = ref<Trigger | null>(null)
/** Of a rule that is being written: what wakes it. */
const when = computed(() => props.draft?.rule.when ?? own.value ?? newWhen('opted-in', parts.value))
const tried = ref<TriedView | null>(null)
const { busy, problem, attempt } = useAttempt()
// What was shown was about something else.
const asked = useNewest()
watch(() => JSON.stringify([person.value, when.value, props.draft?.rule]), () => {
  asked()
  tried.value = null
})

const tryIt = () => attempt(async () => {
  const isNewest = asked()
  const answer = await api('POST /rules/try', { body: { personId: person.value!.id, when: when.value, draft: props.draft } })
  if (isNewest()) tried.value = answer
})
const acting = computed(() => tried.value?.lines.filter(line => line.kind === 'rule' && line.verdict === 'acts').length ?? 0)
const cut = computed(() =>
  tried.value?.lines.filter(line => line.kind === 'rule' && (line.verdict === 'circle' || line.verdict === 'too-deep')).length ?? 0)
const summary = computed(() => acting.value === 0
  ? 'No rule would act.'
  : `${acting.value === 1 ? 'One rule would act' : `${acting.value} rules would act`}${cut.value ? `, and ${cut.value === 1 ? 'one is' : `${cut.value} are`} cut off` : ''}.`)
</script>

<template>
  <div class="fields">
    <div class="field">
      <label for="try-person">A real person</label>
      <PersonField v-model="person" input-id="try-person" />
    </div>
    <div v-if="draft === null" class="field">
      <span class="label">What happens</span>
      <WhenRow :model-value="when" label="What happens" @update:model-value="next => own = next" />
    </div>
    <div>
      <Button label="See what would happen" icon="pi pi-eye" severity="secondary" :disabled="!person" :loading="busy" @click="tryIt" />
    </div>
    <ProblemNote :of="problem" />
    <div v-if="tried" class="result" role="status">
      <p v-if="tried.nothing" class="note lamp">{{ tried.nothing }}</p>
      <template v-else>
        <p><strong>{{ summary }}</strong> <span class="second">Nothing was changed. This is what would happen.</span></p>
        <ChainLines :lines="tried.lines" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.field :deep(.p-autocomplete) { width: 100%; }
.result { display: grid; gap: 10px; }
</style>
