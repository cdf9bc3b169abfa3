<script setup lang="ts">
import { computed } from 'vue'
import InputNumber from 'primevue/inputnumber'
import ToggleSwitch from 'primevue/toggleswitch'
import { MOST_AFTER_DAYS, newPlannedAgain, type PlannedAgain } from '#core/broadcast/again'
import type { BroadcastDraft } from '#core/broadcast/draft'
import AgainFields from './AgainFields.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A second sending that is planned with the first. */
const draft = defineModel<BroadcastDraft>({ required: true })
defineProps<{ problem: string | null, at: string | null }>()
const again = computed(() => draft.value.again)
const put = (next: PlannedAgain | null) => draft.value = { ...draft.value, again: next }
</script>

<template>
  <div class="fields column">
    <div class="top">
      <h2>Second sending</h2>
      <ToggleSwitch
        :model-value="again !== null" aria-label="Plan a second sending"
        @update:model-value="(on: boolean) => put(on ? newPlannedAgain([]) : null)" />
    </div>
    <template v-if="again">
      <p class="after">After <InputNumber
        :model-value="again.afterDays" :min="1" :max="MOST_AFTER_DAYS" size="small" aria-label="Days until the second sending"
        :input-style="{ width: '48px' }" @update:model-value="days => put({ ...again!, afterDays: days ?? 3 })" /> days</p>
      <p v-if="at" class="small">{{ at }}</p>
      <AgainFields
        :model-value="again" :content="draft.content" :list-id="draft.listId"
        @update:model-value="spec => put({ ...again!, ...spec })" />
      <ProblemNote :of="problem" line class="small" />
    </template>
    <p v-else class="second small">The same email under another subject, to those who missed it. You can also decide that afterwards, from its
      results.</p>
  </div>
</template>

<style scoped>
.column { align-content: start; }
.top { display: flex; justify-content: space-between; align-items: center; }
h2 { font: 650 16px/1.3 var(--heading); }
.after { display: flex; gap: 6px; align-items: center; flex-wrap: wrap; }
</style>
