<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import type { SocialNode } from '#core/message/content'
import SocialLink from './SocialLink.vue'

/** Where else the sender can be found. */
const props = defineProps<{ attrs: Record<string, unknown> }>()
const emit = defineEmits<{ change: [attrs: Record<string, unknown>] }>()
type Links = SocialNode['attrs']['links']
const links = computed({ get: () => props.attrs.links as Links, set: next => emit('change', { links: next }) })
const MOST = 12
const isFull = computed(() => links.value.length >= MOST)
const put = (n: number, link: Links[number]) => links.value = links.value.map((one, at) => at === n ? link : one)
const remove = (n: number) => links.value = links.value.filter((_, at) => at !== n)
const add = () => links.value = [...links.value, { label: '', url: 'https://' }]
</script>

<template>
  <div class="fields">
    <SocialLink
      v-for="(link, n) in links" :key="n" :model-value="link" :n="n + 1" @remove="remove(n)" @update:model-value="next => put(n, next)" />
    <Button v-if="!isFull" label="Add a link" size="small" severity="secondary" @click="add" />
  </div>
</template>
