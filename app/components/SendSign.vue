<script setup lang="ts">
import { computed } from 'vue'
import { kindOf, type SendKind, type SendKindName } from '#core/sending/kinds'
import { colourOfSend } from '~/theme/sends'

/** The colour and shape of what is sent; a word for those who see neither. */
const props = defineProps<{ kind: SendKindName }>()

const SHAPES: Record<SendKind['sign']['shape'], { r: number, filled: boolean }> = {
  round: { r: 5.5, filled: true }, ring: { r: 4.25, filled: false },
}

const shape = computed(() => SHAPES[kindOf(props.kind).sign.shape])
const colour = computed(() => colourOfSend(props.kind))
</script>

<template>
  <svg viewBox="0 0 12 12" width="10" height="10" role="img" :aria-label="kindOf(kind).word">
    <circle cx="6" cy="6" :r="shape.r" :fill="shape.filled ? colour : 'none'" :stroke="shape.filled ? 'none' : colour" stroke-width="2.5" />
  </svg>
</template>
