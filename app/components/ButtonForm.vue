<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import type { ButtonNode } from '#core/message/content'
import { readAddress } from '#core/message/webAddress'
import SelectField from './SelectField.vue'

/** What a button says, where it leads, and the tag that following it gives. */
const props = defineProps<{
  attrs: ButtonNode['attrs'], tags: { id: number, name: string }[], links?: { id: number, name: string, url: string }[],
}>()
const emit = defineEmits<{ change: [ButtonNode['attrs']], remove: [] }>()
const typed = reactive({ ...props.attrs })
/** One of the library brings its address along; another address typed over it is another link. */
const library = computed({
  get: () => typed.linkId ?? null,
  set: (id: number | null) => {
    typed.linkId = id ?? null
    typed.url = props.links?.find(link => link.id === id)?.url ?? typed.url
  },
})
watch(() => typed.url, (url) => {
  if (typed.linkId && props.links?.find(link => link.id === typed.linkId)?.url !== url) typed.linkId = null
})
const read = computed(() => readAddress(typed.url))
watch(typed, () => emit('change', { ...typed }))
</script>

<template>
  <div class="button-form">
    <div class="field">
      <label for="button-label">Button text</label>
      <InputText id="button-label" v-model="typed.label" size="small" maxlength="80" />
    </div>
    <div class="field">
      <label for="button-url">and leads to</label>
      <InputText id="button-url" v-model="typed.url" size="small" :invalid="!read.ok" />
      <p v-if="!read.ok" class="problem">{{ read.problem }}</p>
    </div>
    <SelectField
      v-if="links?.length" v-model="library" label="or to a saved link"
      :options="links.map(({ id, name }) => ({ name, value: id }))" size="small" placeholder="none" show-clear filter />
    <SelectField
      v-model="typed.tagId" label="A click adds the tag" :options="tags.map(({ id, name }) => ({ name, value: id }))" size="small"
      placeholder="none" show-clear filter />
    <label v-if="typed.tagId" class="asks small"><Checkbox v-model="typed.asks" binary /> only after a second click on our page</label>
    <Button icon="pi pi-trash" size="small" severity="secondary" aria-label="Remove the button" @click="emit('remove')" />
  </div>
</template>

<style scoped>
.asks { display: flex; align-items: center; gap: 6px; grid-column: 1 / -2; }
.button-form {
  display: grid; grid-template-columns: 1fr 1fr auto; gap: 8px; align-items: start; padding: 8px; background: var(--p-porch-rail);
  border-top: 1px solid var(--p-porch-line-light);
}
.button-form > button { margin-top: 21px; }
</style>
