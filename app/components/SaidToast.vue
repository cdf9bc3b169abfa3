<script setup lang="ts">
import { watch } from 'vue'
import { useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import Toast, { type ToastMessageOptions } from 'primevue/toast'
import { useToast } from 'primevue/usetoast'
import { isWriting } from '~/composables/useKeys'
import { ApiProblem } from '~/composables/useApi'
import { useUndo } from '~/stores/undo'

/** What was done or went wrong is said in a corner, with a button where it can be undone. */
const LIFE_MS = 15_000
/** PrimeVue pauses the timer while the pointer is on a message, but only if these events have a listener. */
const stay = () => {}
const undo = useUndo()
const toast = useToast()
const told = new Map<number, ToastMessageOptions>()
/** One after another: a key that is pressed while something is being undone counts, too. */
let turn = Promise.resolve()

watch(() => undo.latest, (doing) => {
  if (!doing) return
  const message: ToastMessageOptions = { severity: 'success', summary: doing.said, detail: doing.id, life: LIFE_MS }
  told.set(doing.id, message)
  toast.add(message)
})

/** What can be undone carries its number in the place of a detail. */
const undoable = ({ detail }: ToastMessageOptions) => typeof detail === 'number'

const undoIt = (id?: number) => {
  turn = turn.then(() => undoNow(id))
}
async function undoNow(id?: number) {
  try {
    const undone = await undo.undo(id)
    if (!undone) return
    const message = told.get(undone.id)
    if (message) toast.remove(message)
    toast.add({ severity: 'success', summary: 'Undone', detail: undone.except, life: 5000 })
  }
  catch (error) {
    toast.add({
      severity: 'error', summary: 'Not undone', detail: error instanceof ApiProblem ? error.message : (error as Error).message, life: 8000,
    })
  }
}

useEventListener('keydown', (event) => {
  if ((event.ctrlKey || event.metaKey) && !event.altKey && !event.shiftKey && event.key.toLowerCase() === 'z' && !isWriting(event.target)) {
    event.preventDefault()
    // Held down, it is meant once.
    if (!event.repeat) undoIt()
  }
})
</script>

<template>
  <Toast position="bottom-right" :on-mouse-enter="stay" :on-mouse-leave="stay">
    <template #message="{ message }">
      <div class="p-toast-message-text said">
        <span class="p-toast-summary">{{ message.summary }}</span>
        <div v-if="message.detail && !undoable(message)" class="p-toast-detail">{{ message.detail }}</div>
      </div>
      <Button
        v-if="undoable(message) && undo.canUndo(message.detail)" label="Undo" size="small" severity="secondary" title="Ctrl+Z"
        @click="undoIt(message.detail)" />
    </template>
  </Toast>
</template>

<style scoped>
.said { flex: 1; }
</style>
