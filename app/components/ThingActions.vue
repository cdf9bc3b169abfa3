<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { useToast } from 'primevue/usetoast'
import type { ThingKind } from '#core/things'
import { api, ApiProblem } from '~/composables/useApi'
import { useArchive } from '~/composables/useArchive'
import { useFrame } from '~/stores/frame'

/**
 * What can be done with anything that is made: copied, put away, brought back. `to`: where a copy is opened; left out where that is not a
 * screen.
 */
const props = defineProps<{ kind: ThingKind, id: number, to?: (id: number) => string }>()
const emit = defineEmits<{ done: [] }>()
const frame = useFrame()
const toast = useToast()
const { isArchived } = useArchive()
const menu = ref<InstanceType<typeof Menu>>()
const away = computed(() => isArchived(props.kind, props.id))

async function act(work: () => Promise<string>) {
  try {
    const summary = await work()
    await frame.changed()
    toast.add({ severity: 'success', summary, life: 4000 })
    emit('done')
  }
  catch (error) {
    toast.add({
      severity: 'error', summary: error instanceof ApiProblem ? error.fields[0]?.problem ?? error.message : String(error), life: 8000,
    })
  }
}
const copy = () => act(async () => {
  const { id } = await api('POST /copies/:kind/:id', { at: { kind: props.kind, id: props.id } })
  if (props.to) await navigateTo(props.to(id))
  return props.to ? 'This is the copy.' : 'Copied.'
})
const shelve = () => act(async () => {
  await api(`${away.value ? 'DELETE' : 'PUT'} /archived/:kind/:id`, { at: { kind: props.kind, id: props.id } })
  return away.value ? 'Back in its list.' : 'Archived. Find it under “Archived” in its list.'
})
const items = computed(() => [
  { label: 'Make a copy', icon: 'pi pi-copy', command: () => void copy() },
  { label: away.value ? 'Bring it back from the archive' : 'Archive it', icon: 'pi pi-inbox', command: () => void shelve() },
])
</script>

<template>
  <span>
    <Button
      severity="secondary" icon="pi pi-ellipsis-h" aria-label="Copy or archive" title="Copy or archive" aria-haspopup="true"
      @click="event => menu!.toggle(event)" />
    <Menu ref="menu" :model="items" popup />
  </span>
</template>
