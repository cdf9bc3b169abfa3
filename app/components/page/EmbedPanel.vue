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
  { value: 'inline', name: 'In its place' }, { value: 'slide-in', name: 'Slide in from the side' }, { value: 'plain', name: 'Plain HTML' },
] as const
const way = ref<typeof WAYS[number]['value']>('inline')
const SAYS = {
  'inline': 'Shows the form in place of this line, styled like this page. Later changes appear there automatically.',
  'slide-in': 'The form slides in after 20 seconds, once per visit, and can be closed. Change the number as you like.',
  'plain': 'Works without scripts and looks like the site it is on. If you change the form later, paste it again.',
}
const code = computed(() => way.value === 'plain'
  ? embedForm(props.content, props.url, new Map(parts.value.fields.map(field => [field.id, field])))
  : embedScript(props.url, way.value))
async function copy() {
  await navigator.clipboard.writeText(code.value)
  toast.add({ severity: 'success', summary: 'Copied', life: 5000 })
}
</script>

<template>
  <section class="panel panel-body fields" aria-labelledby="elsewhere">
    <h2 id="elsewhere">The form on another site</h2>
    <p v-if="!published" class="second">Publish the page first: only then can people opt in.</p>
    <SelectButton
      v-model="way" :options="[...WAYS]" option-label="name" option-value="value" :allow-empty="false" size="small"
      aria-label="How the form appears" />
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
