<script setup lang="ts">
import type { OddAddressRule, OddWay } from '#core/people/oddAddress'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What pages do with addresses of a role and of throw-away domains. Saved as it is chosen. */
const { data: rule, problem: loading } = useFresh(() => api('GET /odd-addresses'))
const { attempt, problem } = useAttempt()
const WAYS: { value: OddWay, name: string }[] = [
  { value: 'take', name: 'take them like any other' }, { value: 'warn', name: 'ask once whether they are meant' },
  { value: 'refuse', name: 'refuse them, and say why' },
]
const set = (change: Partial<OddAddressRule>) => attempt(async () => {
  rule.value = await api('PUT /odd-addresses', { body: { ...rule.value!, ...change } })
})
</script>

<template>
  <section class="panel" aria-labelledby="odd-addresses">
    <h2 id="odd-addresses">Shared and throw-away addresses</h2>
    <p v-if="loading" class="panel-body problem" role="alert">{{ loading }}</p>
    <div v-else-if="rule" class="panel-body fields">
      <SelectField
        :model-value="rule.role" label="Mailboxes of an office, like info@" :options="WAYS" @update:model-value="role => set({ role })" />
      <SelectField
        :model-value="rule.throwaway" label="Domains that throw mail away" :options="WAYS"
        @update:model-value="throwaway => set({ throwaway })">
        <p class="hint">By a public list that came with this version. It counts on opt-in pages; imports take what you bring.</p>
      </SelectField>
      <ProblemNote :of="problem" />
    </div>
  </section>
</template>
