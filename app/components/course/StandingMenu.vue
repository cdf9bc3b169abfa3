<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useUndo } from '~/stores/undo'
import PopupMenu from '~/components/PopupMenu'
import ProblemNote from '~/components/ProblemNote.vue'

/**
 * What can be done by hand to one person's journey: another step, a stop for a while, the way out.
 * One for all lines of a table: each of them opens it at a button of its own.
 */
const props = defineProps<{ enrolmentId: number, name: string, still: boolean, steps: { id: string, name: string }[] }>()
const emit = defineEmits<{ done: [] }>()
const toast = useToast()
const undo = useUndo()
const menu = ref<InstanceType<typeof PopupMenu>>()
const asking = ref<'move' | 'take-out' | null>(null)
const toId = ref<string | null>(null)
const { busy, problem, attempt } = useAttempt()

const at = computed(() => ({ id: props.enrolmentId }))
const back = (mine: { id: number }) => () => api('POST /enrolments/:id/back', { at: mine })
const move = () => go(
  () => api('POST /enrolments/:id/move', { at: at.value, body: { toId: toId.value! } }), 'continues there', back(at.value),
)
const stand = (how: 'still' | 'go-on' | 'take-out', does: string) => {
  const mine = at.value
  return go(() => api(`POST /enrolments/:id/${how}`, { at: mine }), does, how === 'take-out'
    ? back(mine)
    : () => api(`POST /enrolments/:id/${how === 'still' ? 'go-on' : 'still'}`, { at: mine }))
}

async function go(ask: () => Promise<void>, does: string, undoing: () => Promise<void>) {
  if (!await attempt(ask)) {
    if (asking.value === null) toast.add({ severity: 'error', summary: problem.value!.message, life: 8000 })
    return
  }
  asking.value = null
  undo.did({ said: `${props.name} ${does}.`, undo: undoing })
  emit('done')
}
const items = computed(() => [
  { label: 'Move to another step …', command: () => { asking.value = 'move' } },
  props.still
    ? { label: 'Resume', command: () => void stand('go-on', 'has been resumed') }
    : { label: 'Pause here', command: () => void stand('still', 'is paused there') },
  { label: 'Remove from the course …', command: () => { asking.value = 'take-out' } },
])

/** At what was pressed. */
defineExpose({ open: (event: Event) => menu.value!.toggle(event) })
</script>

<template>
  <PopupMenu ref="menu" :model="items" popup />
  <Dialog
    :visible="asking !== null" modal :header="asking === 'move' ? `Move ${name} to another step` : `Remove ${name} from the course`"
    :style="{ width: '460px' }"
    @update:visible="asking = null">
    <div class="fields">
      <template v-if="asking === 'move'">
        <p>They continue at the step you choose. The next wait counts from now, and emails they already got are not sent again.</p>
        <Select
          v-model="toId" :options="steps" option-label="name" option-value="id" placeholder="choose a step"
          aria-label="Step to continue at" />
      </template>
      <p v-else>They leave this course, and its emails not sent yet are withdrawn. Nothing else changes for them.</p>
      <ProblemNote :of="problem" first />
      <div class="end">
        <Button severity="secondary" label="Cancel" @click="asking = null" />
        <Button
          v-if="asking === 'move'" label="Move them there" :disabled="!toId" :loading="busy"
          @click="move" />
        <Button v-else severity="danger" label="Remove from the course" :loading="busy" @click="stand('take-out', 'has left')" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
