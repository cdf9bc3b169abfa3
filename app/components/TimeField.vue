<script setup lang="ts">
import { computed } from 'vue'
import { readTime } from '#core/time/read'
import type { LocalTime } from '#core/time/zone'
import { useTyped } from '~/composables/useTyped'
import TypedPicker from './TypedPicker.vue'

/** A clock time of 24 hours: `08:00`. It is typed or picked. */
const time = defineModel<LocalTime>({ required: true })
defineProps<{ inputId?: string, label?: string, size?: 'small' }>()

const two = (n: number) => String(n).padStart(2, '0')
// Only the hands of this clock are ever read; its day is any day without a change of the clocks.
const picked = computed({
  get: () => {
    const [hour, minute] = time.value.split(':').map(Number)
    return new Date(2026, 0, 15, hour, minute)
  },
  set: (value: unknown) => {
    if (value instanceof Date) time.value = `${two(value.getHours())}:${two(value.getMinutes())}`
  },
})
const { text, problem, take } = useTyped(time, { show: value => value, read: readTime, shape: 'a time. Type it like 09:30.' })
</script>

<template>
  <TypedPicker
    v-slot="{ picker }" v-model="text" :input-id="inputId" :label="label" :size="size" icon="pi pi-clock" pick="Pick a time"
    :problem="problem"
    class="time-field" @take="take">
    <component :is="picker" v-model="picked" inline time-only hour-format="24" :step-minute="5" />
  </TypedPicker>
</template>

<style scoped>
.time-field :deep(.box) { width: 92px; }
</style>
