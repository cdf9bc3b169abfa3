<script setup lang="ts">
import { computed, nextTick, ref, useId, watch } from 'vue'
import { watchDebounced } from '@vueuse/core'
import type { AskedReader, EmailPreview, WrittenEmail } from '#core/views/email'
import { api, ApiProblem, hrefOf } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import ProblemNote from '~/components/ProblemNote.vue'

/** The email as mail programs show it to a reader: wide, narrow, dark, without its pictures, and as text. */
const props = defineProps<{ email: WrittenEmail, reader: AskedReader, views: readonly View[] }>()
export type View = 'desktop' | 'phone' | 'dark' | 'plain' | 'text'
const LOOKS = { desktop: 'light', phone: 'light', dark: 'dark', plain: 'plain' } as const
const NAMES: Record<View, string> = {
  desktop: 'On a computer', phone: 'On a phone', dark: 'In the dark', plain: 'Without pictures', text: 'As text',
}
const preview = ref<EmailPreview | null>(null)
const problem = ref<string | null>(null)
const forms = ref<HTMLFormElement[]>([])
const frame = useId()
const framed = computed(() => props.views.filter((view): view is keyof typeof LOOKS => view !== 'text'))
const asked = computed(() => {
  const { personId, firstName, chosen } = props.reader
  return { ...props.email, personId, firstName, chosen }
})

const newest = useNewest()
async function read() {
  const isNewest = newest()
  try {
    const answer = await api('POST /emails/preview', { body: asked.value })
    if (!isNewest()) return
    preview.value = answer
    problem.value = null
    // The email comes as a page of its own: its styles are its own affair, and the policy of this page would stop them.
    await nextTick()
    for (const form of forms.value) form.submit()
  }
  catch (error) {
    if (!isNewest()) return
    preview.value = null
    problem.value = error instanceof ApiProblem ? error.message : String(error)
  }
}
// By name: the same views in another list are no reason to load the email anew.
watch([() => props.reader, () => props.views.join(' ')], read, { immediate: true })
// Its lines stay open above it, to be written in.
watchDebounced(() => JSON.stringify(props.email), read, { debounce: 400 })
</script>

<template>
  <div class="fields">
    <ProblemNote :of="problem" />
    <template v-if="preview">
      <p><strong>{{ preview.subject || 'No subject yet' }}</strong></p>
      <div class="views" :class="{ several: views.length > 1 }">
        <figure v-for="view in framed" :key="view" :class="view">
          <figcaption class="small second">{{ NAMES[view] }}</figcaption>
          <form ref="forms" method="post" :action="hrefOf('POST /emails/preview/html', {})" :target="`${frame}-${view}`" hidden>
            <input name="asked" :value="JSON.stringify(asked)" />
            <input name="look" :value="LOOKS[view]" />
          </form>
          <iframe :name="`${frame}-${view}`" :title="`The email ${NAMES[view].toLowerCase()}`" />
        </figure>
        <figure v-if="views.includes('text')" class="text">
          <figcaption class="small second">{{ NAMES.text }}</figcaption>
          <pre class="mono" tabindex="0">{{ preview.text }}</pre>
        </figure>
      </div>
    </template>
  </div>
</template>

<style scoped>
.views { display: flex; flex-wrap: wrap; gap: 18px; align-items: start; }
figure { margin: 0; display: grid; gap: 4px; }
iframe {
  width: 640px; max-width: 100%; height: calc(100vh - var(--rail) - 330px); min-height: 420px; border: 1px solid var(--p-porch-line);
  border-radius: 8px; background: #fff;
}
.phone iframe { width: 376px; }
.dark iframe { background: #1C2833; }
pre {
  width: 560px; max-width: 100%; height: calc(100vh - var(--rail) - 330px); min-height: 420px; overflow: auto; margin: 0;
  padding: 14px 16px;
  white-space: pre-wrap; overflow-wrap: anywhere; background: var(--p-porch-paper); border: 1px solid var(--p-porch-line);
  border-radius: 8px;
}
/* Side by side they are half as large. */
.several iframe, .several pre { zoom: 0.5; height: 900px; }
.several pre { font-size: 22px; }
.several figcaption { font-weight: 600; }
</style>
