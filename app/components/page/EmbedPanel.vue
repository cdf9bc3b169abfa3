<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import Textarea from 'primevue/textarea'
import { useToast } from 'primevue/usetoast'
import type { PageContent } from '#core/page/content'
import { embedForm, embedScript } from '#core/page/embed'
import { useParts } from '~/composables/useParts'

/** The form of the page for another site: to be copied and pasted there. */
const props = defineProps<{ content: PageContent, url: string, published: boolean }>()
const parts = useParts()
const toast = useToast()
const WAYS = [
  { value: 'inline', name: 'In its place' }, { value: 'slide-in', name: 'Coming in from the side' }, { value: 'plain', name: 'Plain HTML' },
] as const
const way = ref<typeof WAYS[number]['value']>('inline')
const SAYS = {
  'inline': 'Puts the form, with the looks of this page, where the line stands. Later changes of the page show there by themselves.',
  'slide-in': 'Lets the form come in from the side after 20 seconds, once a visit; it can be closed. Change the number in the line as you like.',
  'plain': 'Works without any script and takes the looks of the site it stands on. What you change in the form later must be pasted anew.',
}
const code = computed(() => way.value === 'plain'
  ? embedForm(props.content, props.url, new Map(parts.value.fields.map(field => [field.id, field])))
  : embedScript(props.url, way.value))
async function copy() {
  await navigator.clipboard.writeText(code.value)
  toast.add({ severity: 'success', summary: 'Copied', life: 3000 })
}
</script>

<template>
  <section class="panel panel-body fields" aria-labelledby="elsewhere">
    <h2 id="elsewhere">The form on another site</h2>
    <p v-if="!published" class="second">Publish the page first: only then can people opt in.</p>
    <SelectButton
      v-model="way" :options="[...WAYS]" option-label="name" option-value="value" :allow-empty="false" size="small"
      aria-label="How the form appears there" />
    <div class="field">
      <label for="embed-code">Paste this into the site</label>
      <Textarea id="embed-code" :model-value="code" readonly rows="4" class="mono" />
      <p class="hint">{{ SAYS[way] }}</p>
    </div>
    <Button label="Copy" icon="pi pi-copy" size="small" severity="secondary" class="start" @click="copy" />
  </section>
</template>

<style scoped>
.start { justify-self: start; }
</style>
