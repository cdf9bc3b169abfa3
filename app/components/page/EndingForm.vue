<script setup lang="ts">
import { computed, useId } from 'vue'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { isUnfinished, readAddress } from '#core/message/webAddress'
import type { Thanks } from '#core/page/thanks'
import ThanksForm from './ThanksForm.vue'

/** Where people come to: a page of ours, or an address elsewhere. */
const ending = defineModel<{ thanks: Thanks, redirectUrl: string | null }>({ required: true })
const props = defineProps<{ label: string, name: string, wrong?: string }>()
const id = useId()
const WHERE = [{ value: false, name: 'A page of ours' }, { value: true, name: 'A page elsewhere' }]
const elsewhere = computed({
  get: () => ending.value.redirectUrl !== null,
  set: (on: boolean) => {
    ending.value.redirectUrl = on ? 'https://' : null
  },
})
const address = computed({ get: () => ending.value.redirectUrl ?? '', set: (url: string) => { ending.value.redirectUrl = url } })
const read = computed(() => readAddress(address.value))
const problem = computed(() => props.wrong ?? (read.value.ok || isUnfinished(address.value) ? undefined : read.value.problem))
</script>

<template>
  <div class="field">
    <span class="label">{{ label }}</span>
    <SelectButton
      v-model="elsewhere" :options="WHERE" option-label="name" option-value="value" :allow-empty="false" size="small"
      :aria-label="`${label}: ${name}`" />
  </div>
  <div v-if="elsewhere" class="field">
    <label :for="id">Its address</label>
    <InputText :id="id" v-model="address" maxlength="2000" :invalid="!!problem" />
    <p :class="problem ? 'problem' : 'hint'">{{ problem ?? 'Visitors can only be sent to this address.' }}</p>
  </div>
  <ThanksForm v-else v-model="ending.thanks" :label="name" />
</template>
