<script setup lang="ts">
import { computed, ref } from 'vue'
import { GROUPS, type Group } from '#core/broadcast/again'
import type { Split } from '#core/views/broadcastResults'
import { api } from '~/composables/useApi'
import WhoList from '~/components/WhoList.vue'
import GroupActions from './GroupActions.vue'

/** The people behind a number of a sent broadcast. `people`: how many they are. */
const props = defineProps<{
  id: number, name: string, number: string, people: number, words: string, zone: string, within?: { by: Split, part: string }
}>()
defineEmits<{ close: [] }>()
const KEYS: Record<string, Group> = { opened: 'opened', notopened: 'not-opened', clicked: 'clicked', notclicked: 'not-clicked' }
const group = computed(() => props.within ? undefined : GROUPS.find(one => one === KEYS[props.number]))
const said = ref<string | null>(null)
const ask = (from: number) => api('GET /broadcasts/:id/who', { at: { id: props.id }, query: {
  key: props.number, by: props.within?.by ?? '', part: props.within?.part ?? '', from,
} })
</script>

<template>
  <WhoList :of="`${number} ${within?.by} ${within?.part}`" :words="words" :zone="zone" :ask="ask" @close="$emit('close')">
    <p v-if="said" class="note small" role="status">{{ said }}</p>
    <GroupActions v-else-if="group" :id="id" :name="name" :group="group" :people="people" @done="now => said = now" />
  </WhoList>
</template>
