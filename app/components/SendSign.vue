<script setup lang="ts">
import type { SendOf } from '#core/views/frame'

/** The colour and shape of what is sent; a word for those who see neither. One email that is asked for or sent by a rule is a small ring. */
defineProps<{ kind: SendOf['kind'] }>()
const WORDS: Record<SendOf['kind'], string> = { course: 'course', opening: 'waiting list' }
</script>

<template>
  <svg viewBox="0 0 12 12" width="10" height="10" role="img" :aria-label="WORDS[kind]">
    <circle v-if="kind === 'course'" cx="6" cy="6" r="5.5" class="course" /><circle v-else cx="6" cy="6" r="4.25" class="ring" />
  </svg>
</template>

<style scoped>
.course { fill: var(--p-send-course); }
.ring { fill: none; stroke: var(--p-porch-ink-second); stroke-width: 2.5; }
</style>
