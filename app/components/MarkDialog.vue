<script setup lang="ts">
import { watch } from 'vue'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'

/** Makes or changes a list or a tag. */
export type Editing = { kind: 'list', id: number | null, name: string, publicName: string, description: string } | { kind: 'tag', id: number | null, name: string, note: string }

const editing = defineModel<Editing | null>({ required: true })
const emit = defineEmits<{ saved: [] }>()
const { busy, problem, attempt } = useAttempt()
watch(() => editing.value === null, () => problem.value = null)

async function save() {
  const { kind, id, ...body } = editing.value!
  const saved = await attempt(() => api(`${kind}s${id === null ? '' : `/${id}`}`, { method: id === null ? 'POST' : 'PUT', body }))
  if (!saved) return
  editing.value = null
  emit('saved')
}
</script>

<template>
  <Dialog v-if="editing" visible modal :header="`${editing.id === null ? 'New' : 'Change the'} ${editing.kind}`" :style="{ width: '460px' }" @update:visible="editing = null">
    <form class="fields" @submit.prevent="save">
      <div class="field">
        <label for="mark-name">{{ editing.kind === 'list' ? 'Name, only for you' : 'Name' }}</label>
        <InputText id="mark-name" v-model="editing.name" maxlength="80" autofocus :invalid="!!problem?.of('name')" />
        <p v-if="problem?.of('name')" class="problem" role="alert">{{ problem.of('name') }}</p>
      </div>
      <template v-if="editing.kind === 'list'">
        <div class="field"><label for="mark-public">Name that subscribers see</label><InputText id="mark-public" v-model="editing.publicName" maxlength="80" :placeholder="editing.name" /></div>
        <div class="field"><label for="mark-description">What subscribers can expect from it</label><Textarea id="mark-description" v-model="editing.description" rows="3" maxlength="300" auto-resize /></div>
      </template>
      <div v-else class="field"><label for="mark-note">What it means, for your own memory</label><Textarea id="mark-note" v-model="editing.note" rows="2" maxlength="300" auto-resize /></div>
      <p v-if="problem && problem.fields.length === 0" class="note brick" role="alert">{{ problem.message }}</p>
      <div class="end"><Button type="submit" :label="editing.id === null ? `Make the ${editing.kind}` : `Save the ${editing.kind}`" :loading="busy" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
