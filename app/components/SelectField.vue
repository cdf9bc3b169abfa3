<script setup lang="ts" generic="Value">
import { computed, useId } from 'vue'
import Select from 'primevue/select'

/** One choice of several, under its label. What is not named here goes on to the select itself. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string, options: readonly { name: string, value: Value }[] }>()
const chosen = defineModel<Value>({ required: true })
const id = useId()
// A list takes an empty text or nothing for no choice at all, and would show nothing: the words of that choice stand in its place.
const emptyName = computed(() => props.options.find(({ value }) => value === '' || value === null)?.name)
</script>

<template>
  <div class="field">
    <span :id="id" class="label">{{ label }}</span>
    <Select
      v-model="chosen" :aria-labelledby="id" :options="[...options]" option-label="name" option-value="value" :placeholder="emptyName"
      v-bind="$attrs" />
    <slot />
  </div>
</template>
