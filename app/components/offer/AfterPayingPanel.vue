<script setup lang="ts">
import type { OfferContent } from '#core/offers/offer'
import MailEditor from '~/components/page/MailEditor.vue'
import ThanksForm from '~/components/page/ThanksForm.vue'

/** The page that buyers come to from the checkout, and the email around each receipt. */
const draft = defineModel<OfferContent>({ required: true })
defineProps<{ wrong: (field: string) => string | undefined }>()
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-labelledby="thanks">
      <h2 id="thanks">The page they come to</h2>
      <ThanksForm v-model="draft.thanks" label="the page after paying" />
      <p v-if="wrong('thanks')" class="problem" role="alert">{{ wrong('thanks') }}</p>
    </section>
    <section class="panel panel-body fields" aria-labelledby="receipt">
      <h2 id="receipt">The email with the receipt</h2>
      <p class="second small">It goes for every payment. Number, date, seller, what was bought, total and the line about tax stand under it by themselves; who sells and the line about tax are typed in <NuxtLink to="/settings">Settings</NuxtLink>. Its button leads buyers to their own page.</p>
      <MailEditor v-model="draft.receipt" kind="receipt" :list-id="draft.gives.listIds[0] ?? null" :problem="wrong('receipt')" />
    </section>
  </div>
</template>
