<script setup lang="ts">
import { computed } from 'vue'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import type { PageContent } from '#core/page/content'
import ThanksForm from './ThanksForm.vue'

/** What people see once their opt-in counts. */
const draft = defineModel<PageContent>({ required: true })
const props = defineProps<{ wrong: (field: string) => string | undefined }>()
const WHERE = [{ value: false, name: 'A page of thanks of ours' }, { value: true, name: 'A page elsewhere' }]
const elsewhere = computed({
  get: () => draft.value.redirectUrl !== null,
  set: (on: boolean) => {
    draft.value.redirectUrl = on ? 'https://' : null
  },
})
const address = computed({ get: () => draft.value.redirectUrl ?? '', set: (url: string) => { draft.value.redirectUrl = url } })
const problem = computed(() => props.wrong('redirectUrl'))
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-label="Where they come to">
      <div class="field"><span class="label">{{ draft.confirming.who === 'nobody' ? 'After the button they come to' : 'After their yes they come to' }}</span><SelectButton v-model="elsewhere" :options="WHERE" option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Where they come to" /></div>
      <div v-if="elsewhere" class="field"><label for="redirect">Its address</label><InputText id="redirect" v-model="address" maxlength="2000" :invalid="!!problem" /><p :class="problem ? 'problem' : 'hint'">{{ problem ?? 'Only this address: nothing a visitor types can lead anywhere else.' }}</p></div>
      <template v-else><p v-if="wrong('thanks')" class="problem" role="alert">{{ wrong('thanks') }}</p><ThanksForm v-model="draft.thanks" label="the thanks" /></template>
    </section>
    <section v-if="draft.forKnown && !elsewhere" class="panel panel-body fields" aria-labelledby="for-known"><h2 id="for-known">For who is one of ours already</h2><ThanksForm v-model="draft.forKnown.thanks" label="the thanks for who is known" /></section>
  </div>
</template>

<style scoped>
.problem { color: var(--p-porch-brick); }
</style>
