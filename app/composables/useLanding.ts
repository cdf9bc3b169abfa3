/**
 * An address may name one control of its screen, `?at=new-list`: once the screen is there, the control has the focus. A button that only
 * opens something (`data-opens`) is opened.
 */
import { onBeforeUnmount, watch } from 'vue'
import { useRoute, useRouter } from '#imports'

/** A screen asks for its data first; who comes later than this is not led any more. */
const PATIENCE_MS = 10_000

export function useLanding(): void {
  const [route, router] = [useRoute(), useRouter()]
  let watching: MutationObserver | null = null
  let patience: ReturnType<typeof setTimeout> | undefined
  function stop() {
    watching?.disconnect()
    clearTimeout(patience)
    watching = null
  }

  /** True once the control was there. */
  function land(id: string): boolean {
    const control = document.getElementById(id)
    if (!control || control.matches(':disabled')) return false
    control.scrollIntoView({ block: 'center' })
    if (control.matches('[data-opens]')) control.click()
    else {
      if (!control.matches('a, button, input, textarea, select, [tabindex]')) control.tabIndex = -1
      control.focus({ focusVisible: true } as FocusOptions)
    }
    const { at: _, ...query } = route.query
    void router.replace({ query })
    return true
  }

  watch(() => route.query.at, (at) => {
    stop()
    if (typeof at !== 'string' || land(at)) return
    watching = new MutationObserver(() => land(at) && stop())
    watching.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['id', 'disabled'] })
    patience = setTimeout(stop, PATIENCE_MS)
  }, { immediate: true, flush: 'post' })
  onBeforeUnmount(stop)
}
