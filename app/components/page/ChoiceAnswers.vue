<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { Ask } from '#core/page/form'
import { useParts } from '~/composables/useParts'
import MarkPicker from '~/components/MarkPicker.vue'
import FieldGifts from './FieldGifts.vue'
import { freeId } from './freeId'

/** The answers to a question, with what each of them gives. */
const ask = defineModel<Extract<Ask, { kind: 'choice' }>>({ required: true })
defineProps<{ tags: { id: number, name: string }[], make: (name: string) => Promise<number> }>()
const parts = useParts()
</script>

<template>
  <div v-for="(one, k) in ask.options" :key="one.id" class="option">
    <div class="field">
      <label :for="`${ask.id}-${one.id}`">Answer {{ k + 1 }}</label>
      <InputText :id="`${ask.id}-${one.id}`" v-model="one.label" size="small" maxlength="120" />
    </div>
    <div class="field">
      <label :for="`${ask.id}-${one.id}-tags`">gives</label>
      <MarkPicker v-model="one.tagIds" :input-id="`${ask.id}-${one.id}-tags`" what="tag" :options="tags" :make="make" />
      <FieldGifts v-if="parts.fields.length" v-model="one.fields" :label="one.label || `Answer ${k + 1}`" />
    </div>
    <Button
      icon="pi pi-trash" size="small" text severity="secondary" :aria-label="`Remove the answer ${one.label || k + 1}`"
      :disabled="ask.options.length <= 2" @click="ask.options.splice(k, 1)" />
  </div>
  <Button
    label="Add an answer" icon="pi pi-plus" size="small" severity="secondary" class="start"
    @click="ask.options.push({ id: freeId('o', ask.options), label: '', tagIds: [], fields: [] })" />
</template>

<style scoped>
.option { display: grid; grid-template-columns: 1fr 1.2fr auto; gap: 10px; align-items: start; }
.option > button { margin-top: 21px; }
.start { justify-self: start; }
</style>
