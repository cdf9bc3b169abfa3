<script setup lang="ts">
import type { OddAddressRule, OddWay } from '#core/people/oddAddress'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { putBack, useUndo } from '~/stores/undo'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What pages do with addresses of a role and of throw-away domains. Saved as it is chosen. */
const { data: rule, problem: loading } = useFresh(() => api('GET /odd-addresses'))
const { attempt, problem } = useAttempt()
const undo = useUndo()
const WAYS: { value: OddWay, name: string }[] = [
  { value: 'take', name: 'accept them' }, { value: 'warn', name: 'ask once whether they are right' },
  { value: 'refuse', name: 'refuse them and say why' },
]
const keep = async (body: OddAddressRule) => {
  rule.value = await api('PUT /odd-addresses', { body })
}
async function set(change: Partial<OddAddressRule>) {
  const before = rule.value!
  if (!await attempt(() => keep({ ...before, ...change }))) return
  const after = rule.value!
  undo.did({ said: 'Saved.', undo: () => putBack(() => api('GET /odd-addresses'), after, () => keep(before)) })
}
</script>

<template>
  <section class="panel" aria-labelledby="odd-addresses">
    <h2 id="odd-addresses">Shared and throw-away addresses</h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <div v-else-if="rule" class="panel-body fields">
      <SelectField
        :model-value="rule.role" label="Shared mailboxes, like info@" :options="WAYS" @update:model-value="role => set({ role })" />
      <SelectField
        :model-value="rule.throwaway" label="Throw-away domains" :options="WAYS"
        @update:model-value="throwaway => set({ throwaway })">
        <p class="hint">Checked on opt-in pages with a public list that came with this version. Imports accept every address.</p>
      </SelectField>
      <ProblemNote :of="problem" />
    </div>
  </section>
</template>
