<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { MOST_ARTICLES } from '#core/message/blocks/articles'
import type { Article, ArticlesNode } from '#core/message/content'
import { useAttempt } from '~/composables/useAttempt'
import { usePictures } from '~/composables/usePictures'
import ArticleForm from './ArticleForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Articles one below another: what each is called and says, and where it goes on. */
const props = defineProps<{ attrs: ArticlesNode['attrs'] }>()
const emit = defineEmits<{ change: [attrs: Partial<ArticlesNode['attrs']>] }>()
const { src, bring } = usePictures()
const { busy, problem, attempt } = useAttempt()
const input = ref<HTMLInputElement>()
const wanted = ref(0)

const set = (articles: Article[]) => emit('change', { articles })
const put = (n: number, change: Partial<Article>) => set(props.attrs.articles.map((one, at) => at === n ? { ...one, ...change } : one))
function move(n: number) {
  const articles = [...props.attrs.articles]
  articles.splice(n - 1, 0, ...articles.splice(n, 1))
  set(articles)
}
function ask(n: number) {
  wanted.value = n
  input.value!.click()
}
async function take() {
  const file = input.value?.files?.[0]
  if (file) await attempt(async () => put(wanted.value, { pictureId: await bring(file) }))
  input.value!.value = ''
}
</script>

<template>
  <div class="fields">
    <ArticleForm
      v-for="(one, n) in attrs.articles" :key="n" :model-value="one" :n="n + 1"
      :picture-src="one.pictureId === null ? null : src(one.pictureId)" @update:model-value="next => put(n, next)">
      <button type="button" class="link-button small" :disabled="busy" @click="ask(n)">
        {{ one.pictureId === null ? 'Add a picture' : 'Another picture' }}
      </button>
      <button v-if="one.pictureId !== null" type="button" class="link-button small" @click="put(n, { pictureId: null })">No picture</button>
      <button v-if="n > 0" type="button" class="link-button small" :aria-label="`Move article ${n + 1} up`" @click="move(n)">Up</button>
      <button
        v-if="attrs.articles.length > 1" type="button" class="link-button small" :aria-label="`Remove article ${n + 1}`"
        @click="set(attrs.articles.filter((_, at) => at !== n))">Remove</button>
    </ArticleForm>
    <ProblemNote :of="problem" at="picture" whole class="small" />
    <input
      ref="input" type="file" accept="image/png,image/jpeg,image/webp,image/gif" aria-label="Picture of the article" hidden
      @change="take" />
    <Button
      v-if="attrs.articles.length < MOST_ARTICLES" label="Add an article" size="small" severity="secondary"
      @click="set([...attrs.articles, { title: '', text: '', url: 'https://', pictureId: null, alt: '' }])" />
    <div class="field">
      <label for="articles-label">Words that lead on (may stay empty)</label>
      <InputText
        id="articles-label" :model-value="attrs.label" size="small" maxlength="60" placeholder="Read on"
        @update:model-value="label => emit('change', { label: label ?? '' })" />
    </div>
  </div>
</template>
