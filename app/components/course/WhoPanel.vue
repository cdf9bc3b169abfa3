<script setup lang="ts">
import type { WhoAsked } from '#core/views/courseNumbers'
import { api } from '~/composables/useApi'
import WhoList from '~/components/WhoList.vue'

/** The people behind a number of a course. */
const props = defineProps<{ courseId: number, asked: WhoAsked, words: string, zone: string }>()
defineEmits<{ close: [] }>()
const ask = (from: number) => api('POST /courses/:id/who', { at: { id: props.courseId }, body: { asked: props.asked, from } })
</script>

<template>
  <WhoList :of="JSON.stringify(asked)" :words="words" :zone="zone" :ask="ask" @close="$emit('close')" />
</template>
