<script setup lang="ts">
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import type { OfferForm } from '#core/offers/offer'
import ProblemNote from '~/components/ProblemNote.vue'

/** What stands around the button on the page. */
const form = defineModel<OfferForm>({ required: true })
defineProps<{ problem?: string }>()
const ASKS: { value: OfferForm['firstName'], name: string }[] = [
  { value: 'no', name: 'Not asked' }, { value: 'may', name: 'Optional' }, { value: 'must', name: 'Needed' },
]
</script>

<template>
  <section class="panel panel-body fields" aria-labelledby="button">
    <h2 id="button">The button</h2>
    <div class="fields two">
      <div class="field">
        <label for="button-label">It says</label>
        <InputText id="button-label" v-model="form.buttonLabel" maxlength="80" :invalid="!!problem" />
      </div>
      <div class="field">
        <span class="label">Their first name</span>
        <SelectButton
          v-model="form.firstName" :options="ASKS" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="Their first name" />
      </div>
    </div>
    <div class="field">
      <label for="button-consent">Buyers agree to</label>
      <InputText id="button-consent" v-model="form.consentWording" maxlength="1000" :invalid="!!problem" />
      <ProblemNote v-if="problem" :of="problem" line />
      <p v-else class="hint">Kept word for word with each purchase. Emails about the purchase then also reach buyers who unsubscribed.</p>
    </div>
  </section>
</template>
