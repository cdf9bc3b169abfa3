<script setup lang="ts">
import { ref, shallowRef, useId, type Component } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Popover from 'primevue/popover'

/** A field to type in, with something to pick from behind a button or the arrow down. */
const text = defineModel<string>({ required: true })
defineProps<{ inputId?: string, label?: string, size?: 'small', icon: string, pick: string, problem: string | null }>()
defineEmits<{ take: [] }>()
const id = useId()
const popover = ref<InstanceType<typeof Popover>>()

/** Loaded when first opened: it is large, and most people type a value or leave the field alone. */
const picker = shallowRef<Component>()
async function open(event: Event, how: 'show' | 'toggle') {
  const from = event.currentTarget
  picker.value ??= (await import('primevue/datepicker')).default
  popover.value?.[how](event, from)
}
</script>

<template>
  <span class="typed-picker">
    <span class="box">
      <InputText
        :id="inputId" v-model="text" :aria-label="label" :size="size" :invalid="problem !== null"
        :aria-describedby="problem ? `${id}-problem` : undefined" autocomplete="off"
        @blur="$emit('take')" @keydown.enter="$emit('take')" @keydown.down.prevent="open($event, 'show')" />
      <Button
        :icon="icon" text size="small" severity="secondary" tabindex="-1" :aria-label="label ? `${pick}: ${label}` : pick" class="open"
        @click="open($event, 'toggle')" />
    </span>
    <span v-if="problem" :id="`${id}-problem`" class="problem small" role="alert">{{ problem }}</span>
    <Popover ref="popover"><slot :picker="picker" :close="() => popover?.hide()" /></Popover>
  </span>
</template>

<style scoped>
.typed-picker { display: inline-grid; gap: 2px; }
.box { position: relative; display: inline-flex; }
.box :deep(input) { width: 100%; padding-right: 32px; }
.open { position: absolute; right: 2px; top: 50%; translate: 0 -50%; width: 28px; height: 28px; padding: 0; }
.problem { color: var(--p-porch-brick); max-width: 280px; }
</style>
