/** The keys that work on every screen: finding anything, and the list of keys. */
import { ref } from 'vue'
import { useEventListener } from '@vueuse/core'

const finding = ref(false)
const showingKeys = ref(false)

export const isWriting = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || target.matches('input, textarea, select, [role="combobox"]'))

export const useKeys = () => ({ finding, showingKeys })

/** For the frame around all screens. */
export function listenForKeys(): void {
  useEventListener('keydown', (event) => {
    if ((event.ctrlKey || event.metaKey) && !event.altKey && !event.shiftKey && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      finding.value = !finding.value
    }
    else if (event.key === '?' && !event.ctrlKey && !event.metaKey && !event.altKey && !isWriting(event.target)) {
      event.preventDefault()
      showingKeys.value = !showingKeys.value
    }
  })
}
