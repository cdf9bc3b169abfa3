<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import Button from 'primevue/button'

/** Lies over the right side of the work; what is under it stays usable. */
defineProps<{ label: string }>()
const emit = defineEmits<{ close: [] }>()

const panel = ref<HTMLElement>()
let before: Element | null = null
onMounted(() => {
  before = document.activeElement
  panel.value?.focus()
})
onBeforeUnmount(() => {
  if (before instanceof HTMLElement && before.isConnected) before.focus()
})
</script>

<template>
  <aside ref="panel" class="side" :aria-label="label" tabindex="-1" @keydown.esc="emit('close')">
    <header>
      <slot name="head" />
      <Button icon="pi pi-times" severity="secondary" text rounded aria-label="Close" class="close" @click="emit('close')" />
    </header>
    <div class="body"><slot /></div>
  </aside>
</template>

<style scoped>
.side {
  position: fixed; z-index: 5; top: 0; right: 0; bottom: var(--rail); width: min(600px, 100vw); display: flex; flex-direction: column;
  background: var(--p-porch-paper); border-left: 1px solid var(--p-porch-line); box-shadow: -10px 0 28px rgb(29 44 60 / 14%); outline: none;
}
header .close { margin-left: auto; flex: none; }
header { display: flex; align-items: center; gap: 12px; padding: 14px 12px 10px 20px; }
.body { flex: 1; overflow: auto; padding: 0 20px 20px; }
</style>
