<script setup lang="ts">
import { computed } from 'vue'
import { readDate } from '#core/time/read'
import { sayDate } from '#core/time/say'
import { isDate, localOf, type LocalDate } from '#core/time/zone'
import { useTyped } from '~/composables/useTyped'
import { useFrame } from '~/stores/frame'
import TypedPicker from './TypedPicker.vue'

/** A date of the calendar, shown so that day and month cannot be mistaken: `Thu 26 Nov 2026`. It is typed or picked. */
const date = defineModel<LocalDate>({ required: true })
defineProps<{ inputId: string, label?: string, size?: 'small' }>()
const frame = useFrame()

const two = (n: number) => String(n).padStart(2, '0')
// The picker works with the browser's own midnight; only its date is ever read.
const picked = computed({
  get: () => {
    const [year, month, day] = date.value.split('-').map(Number)
    return new Date(year!, month! - 1, day)
  },
  set: (value: unknown) => {
    if (value instanceof Date) date.value = `${value.getFullYear()}-${two(value.getMonth() + 1)}-${two(value.getDate())}`
  },
})
const { text, problem, take } = useTyped(date, {
  show: value => isDate(value) ? sayDate(value) : '', read: typed => readDate(typed, localOf(frame.now, frame.zone).date),
  shape: 'a date. Type it like 26 Nov 2026.',
})
</script>

<template>
  <TypedPicker
    v-slot="{ picker, close }" v-model="text" :input-id="inputId" :label="label" :size="size" icon="pi pi-calendar" pick="Pick a date"
    :problem="problem" class="date-field" @take="take">
    <component :is="picker" v-model="picked" inline @date-select="close" />
  </TypedPicker>
</template>

<style scoped>
.date-field :deep(.box) { width: 172px; }
</style>
