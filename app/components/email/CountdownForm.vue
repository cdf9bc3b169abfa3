<script setup lang="ts">
import { computed } from 'vue'
import InputText from 'primevue/inputtext'
import type { CountdownNode } from '#core/message/content'
import InstantField from '~/components/InstantField.vue'
import SelectField from '~/components/SelectField.vue'

/** Until when it counts, and what it says before and after. */
const props = defineProps<{ attrs: CountdownNode['attrs'], offers: readonly { id: number, name: string, closesAt: number | null }[] }>()
const emit = defineEmits<{ change: [attrs: Partial<CountdownNode['attrs']>] }>()
const closing = computed(() => props.offers.filter(({ closesAt }) => closesAt !== null).map(({ id, name }) => ({ value: id, name })))
</script>

<template>
  <div class="fields">
    <SelectField
      v-if="closing.length > 0" :model-value="attrs.offerId" label="Until this offer closes" :options="closing" size="small"
      placeholder="another moment" show-clear
      @update:model-value="(offerId: number | null) => emit('change', { offerId: offerId ?? null })" />
    <InstantField
      v-if="attrs.offerId === null" :model-value="attrs.until" input-id="countdown-until" label="Until" none="not chosen yet" :ahead="7"
      @update:model-value="until => emit('change', { until })" />
    <div class="field">
      <label for="countdown-before">Before the time that is left</label>
      <InputText
        id="countdown-before" :model-value="attrs.before" size="small" maxlength="80" placeholder="Closes in"
        @update:model-value="before => emit('change', { before: before ?? '' })" />
    </div>
    <div class="field">
      <label for="countdown-after">Once it is over</label>
      <InputText
        id="countdown-after" :model-value="attrs.after" size="small" maxlength="120" placeholder="It has closed."
        @update:model-value="after => emit('change', { after: after ?? '' })" />
    </div>
    <p class="second small">It is counted as the email leaves. People who read it later see the date below.</p>
  </div>
</template>
