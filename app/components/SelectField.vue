<script setup lang="ts" generic="Value">
import { useId } from 'vue'
import Select from 'primevue/select'

/** One choice of several, under its label. What is not named here goes on to the select itself. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string, options: readonly { name: string, value: Value }[] }>()
const chosen = defineModel<Value>({ required: true })
const id = useId()
</script>

<template>
  <div class="field">
    <span :id="id" class="label">{{ label }}</span>
    <Select v-model="chosen" :aria-labelledby="id" :options="[...options]" option-label="name" option-value="value" v-bind="$attrs" />
    <slot />
  </div>
</template>
