<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import type { PageContent } from '#core/page/content'
import { newResultPage } from '#core/page/result'
import EndingForm from './EndingForm.vue'
import { freshId } from './freeId'
import ResultPageForm from './ResultPageForm.vue'
import ResultTrial from './ResultTrial.vue'
import ThanksForm from './ThanksForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What people see once their opt-in counts. */
const draft = defineModel<PageContent>({ required: true })
const props = defineProps<{ tags: { id: number, name: string }[], make: (
  name: string,
) => Promise<number>, wrong: (field: string) => string | undefined }>()
defineEmits<{ came: [resultId: string | null] }>()

const moment = computed(() => draft.value.confirming.who === 'nobody' ? 'After the button' : 'After they confirm')
function addResult() {
  const [first] = draft.value.form.asks
  draft.value.resultPages.push(
    newResultPage(freshId('r'), first?.kind === 'choice' ? { askId: first.id, is: 'chosen', optionIds: [] } : null),
  )
}
function move(n: number, by: -1 | 1) {
  const [page] = draft.value.resultPages.splice(n, 1)
  draft.value.resultPages.splice(n + by, 0, page!)
}
</script>

<template>
  <div class="stack">
    <ResultTrial v-if="draft.resultPages.length" :draft="draft" @came="id => $emit('came', id)" />
    <ResultPageForm
      v-for="(page, n) in draft.resultPages" :key="page.id" v-model="draft.resultPages[n]!" :asks="draft.form.asks" :n="n"
      :last="n === draft.resultPages.length - 1" :tags="tags" :make="make" :problem="props.wrong(page.id)"
      @move="by => move(n, by)" @remove="draft.resultPages.splice(n, 1)" />
    <section class="panel panel-body fields" aria-label="Page they see next">
      <h2 v-if="draft.resultPages.length">For everyone else</h2>
      <ProblemNote :of="wrong('thanks')" line />
      <EndingForm v-model="draft" :label="`${moment} they come to`" name="the thanks" :wrong="wrong('redirectUrl')" />
    </section>
    <section
      v-if="draft.forKnown && (draft.redirectUrl === null || draft.confirming.who === 'nobody')" class="panel panel-body fields"
      aria-labelledby="for-known">
      <h2 id="for-known">For people you know already</h2>
      <p v-if="draft.confirming.who === 'nobody'" class="second small">They get this by email. The headline is its subject.</p>
      <p v-else-if="draft.resultPages.length" class="second small">When no result page fits.</p>
      <ThanksForm v-model="draft.forKnown.thanks" label="the thanks for people you know" />
    </section>
    <p class="line">
      <Button
        label="A result page for some answers" icon="pi pi-plus" size="small" severity="secondary" :disabled="draft.form.asks.length === 0"
        @click="addResult" />
      <span
        v-if="draft.form.asks.length === 0" class="second small">Add a question to the form first. Then answers can lead to different
        pages.</span>
    </p>
  </div>
</template>

<style scoped>
.line { display: flex; flex-wrap: wrap; gap: 10px; align-items: center; }
</style>
