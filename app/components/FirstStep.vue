<script setup lang="ts">
/** One of the first useful things, with a tick once it is done. */
defineProps<{ step: { title: string, text: string, done: boolean }, n: number }>()
</script>

<template>
  <strong>
    <i class="pi" :class="step.done ? 'pi-check-circle done' : 'pi-circle'" aria-hidden="true" />
    {{ n }}. {{ step.title }}<span v-if="step.done" class="hidden-label">, done</span>
  </strong>
  <span v-if="!step.done" class="second">{{ step.text }}</span>
</template>

<style scoped>
.pi { font-size: 14px; color: var(--p-porch-ink-third); }
.pi.done { color: var(--p-porch-spruce); }
</style>
