/** Which workspace this tab shows, and with which the server is asked. One tab shows one; another tab may show the other. */
import { readonly, ref } from 'vue'
import type { Mode } from '#core/views/frame'

const KEPT_AS = 'porch-workspace'
const shown = ref<Mode>(sessionStorage.getItem(KEPT_AS) === 'live' ? 'live' : 'practice')

export const mode = readonly(shown)

export function keepMode(next: Mode): void {
  shown.value = next
  sessionStorage.setItem(KEPT_AS, next)
}
