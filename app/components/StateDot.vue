<script setup lang="ts">
/** How a thing stands: a dot that can be told without its colour, and the word. */
defineProps<{ is: 'on' | 'off' | 'paused' | 'trouble', words: string }>()
</script>

<template><span class="state" :class="is"><span aria-hidden="true" />{{ words }}</span></template>

<style scoped>
.state { display: inline-flex; align-items: baseline; gap: 7px; }
.state > span { flex: none; width: 9px; height: 9px; border-radius: 50%; background: var(--p-porch-spruce); }
.off > span { background: none; border: 2px solid var(--p-porch-ink-third); }
.paused > span { border-radius: 1px; background: var(--p-porch-ink-third); }
.trouble > span { border-radius: 0; background: var(--p-porch-brick); clip-path: polygon(50% 0, 100% 100%, 0 100%); }
</style>
