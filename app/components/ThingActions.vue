<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import type { MenuItem } from 'primevue/menuitem'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import type { ThingKind } from '#core/things'
import { api, ApiProblem } from '~/composables/useApi'
import { useArchive } from '~/composables/useArchive'
import { useFrame } from '~/stores/frame'
import PopupMenu from '~/components/PopupMenu'

/**
 * What can be done with anything that is made: copied, put away, brought back. `to`: where a copy is opened; left out where that is not a
 * screen.
 */
const props = defineProps<{
  kind: ThingKind, id: number, to?: (id: number) => string
  /** What else can be done with it. */
  more?: MenuItem[]
}>()
const emit = defineEmits<{ done: [] }>()
const frame = useFrame()
const toast = useToast()
const { isArchived, archive } = useArchive()
const menu = ref<InstanceType<typeof PopupMenu>>()
const away = computed(() => isArchived(props.kind, props.id))

/** `work` says what was done; nothing where that is said already; null where nothing was done yet. */
async function act(work: () => Promise<string | null>) {
  try {
    const summary = await work()
    if (summary === null) return
    await frame.changed()
    if (summary) toast.add({ severity: 'success', summary, life: 5000 })
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
/** Where there are two workspaces, what is made in one can be had in the other. */
const ACROSS: readonly ThingKind[] = ['page', 'offer', 'course', 'broadcast', 'rule', 'link', 'segment']
const other = computed(() => frame.mode === 'live' ? 'practice' : 'live')
/** Pages, offers and courses are drafts until they are published; these count as soon as they are changed. */
const countsAtOnce = computed(() => props.kind === 'link' || props.kind === 'segment')
const confirmation = useConfirm()
const copyAcross = (replace: boolean | null) => act(async () => {
  const copied = await api('POST /across/:kind/:id', { at: { kind: props.kind, id: props.id }, body: { replace } })
  if (copied.is === 'asks') {
    confirmation.require({
      header: `${other.value === 'live' ? 'Live' : 'Practice'} has “${copied.name}” already`,
      message: countsAtOnce.value
        ? 'Replace it, and the new one counts at once. Or make another one beside it.'
        : 'Replace its draft: what is published there stays until you publish. Or make another one beside it.',
      acceptLabel: countsAtOnce.value ? 'Replace it' : 'Replace its draft', rejectLabel: 'Make another one',
      accept: () => void copyAcross(true), reject: () => void copyAcross(false),
    })
    return null
  }
  const alongside = copied.alongside.length ? ` With it: ${copied.alongside.join(', ')}.` : ''
  return `${copied.replaced ? 'Its draft was replaced' : 'Copied'} in ${other.value}.${alongside}`
})
const shelve = () => act(async () => {
  await archive({ kind: props.kind, id: props.id }, away.value ? 'DELETE' : 'PUT')
  return ''
})
const items = computed(() => [
  { label: 'Make a copy', icon: 'pi pi-copy', command: () => void copy() },
  ...frame.frame?.hasLive && ACROSS.includes(props.kind)
    ? [{ label: `Copy to ${other.value}`, icon: 'pi pi-arrow-right-arrow-left', command: () => void copyAcross(null) }]
    : [],
  ...props.more ?? [],
  { label: away.value ? 'Bring it back from the archive' : 'Archive it', icon: 'pi pi-inbox', command: () => void shelve() },
])
</script>

<template>
  <span>
    <Button
      severity="secondary" icon="pi pi-ellipsis-h" aria-label="Copy or archive" title="Copy or archive" aria-haspopup="true"
      @click="event => menu!.toggle(event)" />
    <PopupMenu ref="menu" :model="items" popup />
  </span>
</template>
