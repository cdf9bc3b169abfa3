<script setup lang="ts">
import { computed, useId } from 'vue'
import InputText from 'primevue/inputtext'
import type { Story } from '#core/broadcast/draft'
import SelectField from '~/components/SelectField.vue'

/** What it is about: the next one about the same begins with its audience. */
const story = defineModel<Story>({ required: true })
const props = defineProps<{ offers: { id: number, name: string }[] }>()
const id = useId()
const options = computed(() => [
  { value: null as number | null, name: 'a topic of your own' },
  ...props.offers.map(offer => ({ value: offer.id as number | null, name: offer.name })),
])
</script>

<template>
  <div class="fields">
    <SelectField
      :model-value="story.offerId" label="It is about" :options="options"
      @update:model-value="offerId => story = { offerId, topic: offerId === null ? story.topic : '' }" />
    <div v-if="story.offerId === null" class="field">
      <label :for="id">Topic (only you see it)</label>
      <InputText
        :id="id" :model-value="story.topic" maxlength="80" placeholder="New papers"
        @update:model-value="topic => story = { offerId: null, topic: topic ?? '' }" />
    </div>
  </div>
</template>
