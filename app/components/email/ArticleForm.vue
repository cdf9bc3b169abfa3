<script setup lang="ts">
import { computed } from 'vue'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import type { Article } from '#core/message/content'
import { readAddress } from '#core/message/webAddress'

/** One of the articles of a block. What stands in its slot is done with it as a whole. */
const article = defineModel<Article>({ required: true })
defineProps<{ n: number, pictureSrc: string | null }>()
const part = (key: 'title' | 'text' | 'url') => computed({
  get: () => article.value[key], set: (value: string | undefined) => article.value = { ...article.value, [key]: value ?? '' },
})
const title = part('title')
const text = part('text')
const url = part('url')
const read = computed(() => readAddress(url.value))
</script>

<template>
  <fieldset>
    <legend class="small">Article {{ n }}</legend>
    <InputText v-model="title" size="small" maxlength="120" :aria-label="`Title of article ${n}`" placeholder="Title" />
    <Textarea v-model="text" rows="2" auto-resize maxlength="400" :aria-label="`Words of article ${n}`" placeholder="A sentence or two" />
    <InputText v-model="url" size="small" :aria-label="`Address of article ${n}`" placeholder="https://" :invalid="!read.ok" />
    <p v-if="!read.ok" class="problem small">{{ read.problem }}</p>
    <div class="acts">
      <img v-if="pictureSrc" :src="pictureSrc" alt="" />
      <slot />
    </div>
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; display: grid; gap: 5px; }
legend { padding: 0 0 4px; }
.acts { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
img { width: 40px; height: 40px; object-fit: cover; border-radius: 4px; }
</style>
