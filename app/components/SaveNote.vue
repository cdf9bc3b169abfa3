<script setup lang="ts">
import type { SaveState } from '~/composables/saver'
import type { Draft } from '~/composables/useDraft'

/** Whether what was typed is saved; and where another window was quicker, the question which of the two counts. */
defineProps<{ draft: Pick<Draft, 'keepMine' | 'takeTheirs'>, state: SaveState, problem: string | null }>()
const WORDS: Record<SaveState, string> = {
  saved: 'Saved', typing: 'Saving soon', saving: 'Saving', failed: 'Not saved',
  elsewhere: 'Not saved: this was changed in another window.',
}
</script>

<template>
  <span class="save" :class="state" role="status">
    {{ WORDS[state] }}<template v-if="state === 'failed' && problem">: {{ problem }}</template>
  </span>
  <template v-if="state === 'elsewhere'"> <button type="button" class="link-button small" @click="draft.takeTheirs()">Show the other
    version</button> <button type="button" class="link-button small" @click="draft.keepMine()">Keep this version</button></template>
</template>

<style scoped>
.save { font-size: 12.5px; color: var(--p-porch-ink-second); }
.failed, .elsewhere { color: var(--p-porch-brick); }
.link-button { margin-left: 8px; }
</style>
