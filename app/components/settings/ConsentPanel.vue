<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import MultiSelect from 'primevue/multiselect'
import type { Condition } from '#core/audience/condition'
import type { ConsentRule } from '#core/people/country'
import { USUAL_CONSENT_COUNTRIES } from '#core/people/country'
import { countryOptions } from '~/audience/fieldOptions'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import { sayNumber, sayPeople } from '#core/stats/say'
import PeopleNumber from '~/components/PeopleNumber.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Where consent must be on record, whom that holds back, and what is done about unknown countries. */
const {
  told: view, loading, typed, changed, busy, problem, save,
} = useSetting({
  ask: () => api('GET /consent'), keep: (body: ConsentRule) => api('PUT /consent', { body }),
  pick: ({ countries, unknownNeeds }) => ({ countries: [...countries].sort(), unknownNeeds }), said: 'The countries are saved.',
})
const where = (...of: Condition[]) => ({
  where: JSON.stringify({ kind: 'all', of: [{ kind: 'status', is: ['active'] }, ...of] } satisfies Condition),
})
const unknown: Condition = { kind: 'country', is: [], unknown: true }
const without: Condition = { kind: 'none', of: [{ kind: 'consent', is: 'on-record' }] }
</script>

<template>
  <form class="panel" aria-labelledby="consent-rule" @submit.prevent="save">
    <h2 id="consent-rule">Where consent must be on record</h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <div v-else-if="view && typed" class="panel-body fields">
      <p class="second small">People give it when they opt in on your pages. Others who live in one of these countries get no emails until
        their consent is on record.</p>
      <div class="field">
        <span id="consent-countries" class="label">Countries</span>
        <MultiSelect
          v-model="typed.countries" :options="countryOptions()" option-label="name" option-value="value" filter :show-toggle-all="false"
          aria-labelledby="consent-countries" placeholder="none" :max-selected-labels="3" selected-items-label="{0} countries" />
        <p class="hint">
          <button
            type="button" class="link-button small" @click="typed.countries = [...USUAL_CONSENT_COUNTRIES]">Europe, the United Kingdom,
            Switzerland and Canada</button>
          &nbsp;
          <button type="button" class="link-button small" @click="typed.countries = []">None</button>
        </p>
      </div>
      <p>Held back by this now: <PeopleNumber
        :people="view.heldBack" :words="sayPeople(view.heldBack)"
        :query="where({ kind: 'country', is: [...view.countries], unknown: false }, without)" />.</p>
      <p>Of unknown country: <PeopleNumber :people="view.unknown" :words="sayPeople(view.unknown)" :query="where(unknown)" />, <PeopleNumber
        :people="view.unknownWithout" :words="sayNumber(view.unknownWithout)" :query="where(unknown, without)" /> of them without consent on
        record.</p>
      <label class="check"><Checkbox v-model="typed.unknownNeeds" binary /> Hold back people of unknown country, too</label>
      <ProblemNote :of="problem" />
      <div class="end">
        <Button type="submit" label="Save the countries" severity="secondary" :loading="busy" :disabled="!changed" />
      </div>
    </div>
  </form>
</template>

<style scoped>
.check { display: flex; gap: 8px; align-items: center; }
.end { text-align: right; }
</style>
