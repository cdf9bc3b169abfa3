<script setup lang="ts">
import type { GlossaryKey } from '#core/glossary'
import TermTip from './TermTip.vue'

/** `how`: what the screen is about, where it explains itself. */
defineProps<{ title: string, back?: { to: string, name: string }, how?: GlossaryKey }>()
</script>

<template>
  <header class="head">
    <div class="words">
      <NuxtLink v-if="back" :to="back.to" class="back small"><i class="pi pi-arrow-left" aria-hidden="true" /> {{ back.name }}</NuxtLink>
      <h1 class="cut"><slot name="title">{{ title }}</slot></h1>
      <p class="second"><slot /> <TermTip v-if="how" :of="how" how /></p>
    </div>
    <div class="actions"><slot name="actions" /></div>
  </header>
</template>

<style scoped>
.head { display: flex; align-items: end; justify-content: space-between; gap: 24px; padding-bottom: 16px; }
.words { min-width: 0; display: grid; gap: 4px; }
.back { display: inline-flex; align-items: center; gap: 5px; color: var(--p-porch-ink-second); min-height: 24px; justify-self: start; }
.back .pi { font-size: 11px; }
.actions { display: flex; gap: 8px; flex: none; }
@media (max-width: 760px) { .head { display: grid; align-items: start; } .actions { flex-wrap: wrap; } }
</style>
