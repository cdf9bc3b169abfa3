<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import InputText from 'primevue/inputtext'
import { readMoney, writeMoney } from '#core/money/money'

/** An amount as people type it, kept in the smallest units of its currency. What cannot be read stays as it was typed, and is told. */
const amount = defineModel<number>({ required: true })
const props = defineProps<{ inputId: string, label: string, currency: string, problem?: string, size?: 'small' }>()
const emit = defineEmits<{ wrong: [is: boolean] }>()

const write = () => amount.value === 0 ? '' : writeMoney({ amount: amount.value, currency: props.currency })
const typed = ref(write())
const read = computed(() => typed.value.trim() === '' ? { ok: true as const, amount: 0 } : readMoney(typed.value, props.currency))
watch([read, () => props.currency], () => {
  emit('wrong', !read.value.ok)
  if (read.value.ok) amount.value = read.value.amount
})
/** The same number stands for another amount in another currency: what was typed counts. */
watch(amount, (now) => {
  if (read.value.ok && read.value.amount !== now) typed.value = write()
})
const says = computed(() => read.value.ok ? props.problem : read.value.problem)
</script>

<template>
  <div class="field">
    <label :for="inputId">{{ label }}</label>
    <span class="amount"><InputText
      :id="inputId" v-model="typed" inputmode="decimal" maxlength="30" :size="size" :invalid="!!says"
      :aria-describedby="says ? `${inputId}-problem` : undefined" /> <span class="second">{{ currency }}</span></span>
    <p v-if="says" :id="`${inputId}-problem`" class="problem" role="alert">{{ says }}</p>
    <slot v-else />
  </div>
</template>

<style scoped>
.amount { display: flex; align-items: center; gap: 8px; }
.amount input { width: 130px; text-align: right; font-variant-numeric: tabular-nums; }
</style>
