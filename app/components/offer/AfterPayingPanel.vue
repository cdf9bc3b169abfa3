<script setup lang="ts">
import type { OfferContent } from '#core/offers/offer'
import EmailCard from '~/components/email/EmailCard.vue'
import ThanksForm from '~/components/page/ThanksForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The page that buyers come to from the checkout, and the email around each receipt. */
const draft = defineModel<OfferContent>({ required: true })
defineProps<{ wrong: (field: string) => string | undefined }>()
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-labelledby="thanks">
      <h2 id="thanks">Page after paying</h2>
      <ThanksForm v-model="draft.thanks" label="the page after paying" />
      <ProblemNote :of="wrong('thanks')" line />
    </section>
    <section class="panel panel-body fields" aria-labelledby="receipt">
      <h2 id="receipt">Receipt email</h2>
      <p class="second small">Sent for every payment. Number, date, seller, items, total and the tax line are added automatically. Seller
        and tax line are set in <NuxtLink to="/settings">Settings</NuxtLink>. Its button opens the buyer’s own page.</p>
      <EmailCard own v-model="draft.receipt" kind="receipt" :list-id="draft.gives.listIds[0] ?? null" :problem="wrong('receipt')" />
    </section>
  </div>
</template>
