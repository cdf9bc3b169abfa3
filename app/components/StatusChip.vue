<script setup lang="ts">
import { computed } from 'vue'
import type { Status } from '#core/people/status'

/** How someone stands with us, in a word; the colour only repeats it. */
const props = defineProps<{ status: Status }>()
const TONES: Record<Status, string> = {
  pending: 'lamp', active: 'spruce', resting: '', unsubscribed: '', bounced: 'brick', complained: 'brick',
}
const tone = computed(() => TONES[props.status])
</script>

<template>
  <span class="chip" :class="tone">{{ status }}</span>
</template>
