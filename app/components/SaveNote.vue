<script setup lang="ts">
import type { SaveState } from '~/composables/useDraft'

defineProps<{ state: SaveState, problem: string | null }>()
const WORDS: Record<SaveState, string> = { saved: 'Saved', typing: 'Saving soon', saving: 'Saving', failed: 'Not saved' }
</script>

<template>
  <span class="save" :class="state" role="status">{{ WORDS[state] }}<template v-if="state === 'failed' && problem">: {{ problem }}</template></span>
</template>

<style scoped>
.save { font-size: 12.5px; color: var(--p-porch-ink-second); }
.failed { color: var(--p-porch-brick); }
</style>
