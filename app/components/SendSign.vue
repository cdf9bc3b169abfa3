<script setup lang="ts">
import { computed } from 'vue'
import { kindOf, type SendKindName } from '#core/sending/kinds'
import { colourOfSend } from '~/theme/sends'

/** The colour and shape of what is sent; a word for those who see neither. */
const props = defineProps<{ kind: SendKindName }>()

const shape = computed(() => kindOf(props.kind).sign.shape)
const colour = computed(() => colourOfSend(props.kind))
</script>

<template>
  <svg viewBox="0 0 12 12" width="10" height="10" role="img" :aria-label="kindOf(kind).word">
    <circle v-if="shape === 'round'" cx="6" cy="6" r="5.5" :fill="colour" />
    <circle v-else-if="shape === 'ring'" cx="6" cy="6" r="4.25" fill="none" :stroke="colour" stroke-width="2.5" />
    <rect v-else x="0.75" y="0.75" width="10.5" height="10.5" :fill="colour" />
  </svg>
</template>
