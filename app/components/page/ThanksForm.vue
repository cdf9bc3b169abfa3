<script setup lang="ts">
import { useId } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { isAddress } from '#core/message/webAddress'
import type { Thanks } from '#core/page/thanks'
import { RichEditor } from '~/editor/lazy'

/** A page of thanks: headline, text, and where people can go on from it. */
const thanks = defineModel<Thanks>({ required: true })
defineProps<{ label: string }>()
const id = useId()
</script>

<template>
  <div class="fields">
    <div class="field">
      <label :for="`${id}-headline`">Headline</label>
      <InputText :id="`${id}-headline`" v-model="thanks.headline" maxlength="200" />
    </div>
    <div class="field"><span class="label">Text</span><RichEditor v-model="thanks.text" :label="`Text of ${label}`" /></div>
    <div v-for="(step, n) in thanks.onward" :key="n" class="step">
      <div class="field">
        <label :for="`${id}-words-${n}`">Next steps</label>
        <InputText :id="`${id}-words-${n}`" v-model="step.label" size="small" maxlength="120" placeholder="See what others have made" />
      </div>
      <div class="field">
        <label :for="`${id}-url-${n}`">at</label>
        <InputText :id="`${id}-url-${n}`" v-model="step.url" size="small" maxlength="2000" :invalid="!isAddress(step.url)" />
      </div>
      <Button
        icon="pi pi-trash" size="small" text severity="secondary" :aria-label="`Remove ${step.label || 'this step'}`"
        @click="thanks.onward.splice(n, 1)" />
    </div>
    <Button
      label="Add a next step" icon="pi pi-plus" size="small" severity="secondary" class="start"
      @click="thanks.onward.push({ label: '', url: 'https://' })" />
  </div>
</template>

<style scoped>
.step { display: grid; grid-template-columns: 1fr 1fr auto; gap: 10px; align-items: start; }
.step > button { margin-top: 21px; }
.start { justify-self: start; }
</style>
