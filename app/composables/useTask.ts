/** Follows something that is done to many at once, until it is over. */
import { ref, watch, type Ref } from 'vue'
import { useTimeoutFn } from '@vueuse/core'
import type { TaskView } from '#core/views/tasks'
import { api } from './useApi'
import { useFrame } from '~/stores/frame'

const LOOK_MS = 400

export function useTask(): { task: Ref<TaskView | null>, follow(task: TaskView): void } {
  const frame = useFrame()
  const task = ref<TaskView | null>(null)

  async function look() {
    const id = task.value?.id
    if (id === undefined) return
    // The server may be away for a moment: the next look finds it again.
    const now = await api('GET /tasks/:id', { at: { id } }).catch(() => null)
    if (task.value?.id !== id) return
    task.value = now ?? { ...task.value }
  }
  const again = useTimeoutFn(look, LOOK_MS, { immediate: false })
  watch(task, (now, before) => {
    again.stop()
    if (!now) return
    if (now.endedAt === null) again.start()
    else if (before?.id === now.id && before.endedAt === null) {
      frame.moved++
      void frame.changed()
    }
  })
  return { task, follow: next => task.value = next }
}
