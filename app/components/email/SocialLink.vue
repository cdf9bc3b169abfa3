<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { SocialNode } from '#core/message/content'
import { readAddress } from '#core/message/webAddress'

/** One of the places where the sender can be found. */
const link = defineModel<SocialNode['attrs']['links'][number]>({ required: true })
defineProps<{ n: number }>()
const emit = defineEmits<{ remove: [] }>()
const part = (key: 'label' | 'url') => computed({
  get: () => link.value[key], set: (value: string | undefined) => link.value = { ...link.value, [key]: value ?? '' },
})
const label = part('label')
const url = part('url')
const read = computed(() => readAddress(url.value, 'any'))
</script>

<template>
  <div class="link" role="group" :aria-label="`Link ${n}`">
    <InputText v-model="label" size="small" maxlength="40" :aria-label="`Words of link ${n}`" placeholder="Words" />
    <Button icon="pi pi-trash" size="small" severity="secondary" text :aria-label="`Remove link ${n}`" @click="emit('remove')" />
    <InputText v-model="url" size="small" class="url" :aria-label="`Address of link ${n}`" placeholder="https://" :invalid="!read.ok" />
    <p v-if="!read.ok" class="problem">{{ read.problem }}</p>
  </div>
</template>

<style scoped>
.link { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 6px; }
.url, .problem { grid-column: 1 / -1; }
</style>
