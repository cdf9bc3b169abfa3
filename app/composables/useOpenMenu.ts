/** A menu that a button opens beside it: chosen from by arrow keys, closed by Escape or a press elsewhere. */
import { ref, type Ref } from 'vue'
import { useEventListener } from '@vueuse/core'
import type { Editor, Range } from '@tiptap/core'
import type { MenuItem, OpenMenu } from '~/editor/email/menu'

/** `typed`: the menu that what is typed opens, of which something can be taken by the pointer, too. */
export function useOpenMenu(typed: Ref<OpenMenu | null>) {
  const adding = ref<OpenMenu | null>(null) as Ref<OpenMenu | null>
  let asker: HTMLElement | null = null

  function open(label: string, button: HTMLElement, items: MenuItem[], at: { editor: Editor, range: () => Range }) {
    asker = button
    const { left, bottom } = button.getBoundingClientRect()
    adding.value = { label, items, chosen: 0, left, top: bottom, take: item => item.take(at.editor, at.range()) }
  }
  function take(item: MenuItem) {
    const from = adding.value ?? typed.value
    adding.value = null
    from?.take(item)
  }
  useEventListener(document, 'keydown', (event) => {
    const now = adding.value
    if (!now) return
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (by !== undefined) adding.value = { ...now, chosen: (now.chosen + by + now.items.length) % now.items.length }
    else if (event.key === 'Enter') take(now.items[now.chosen]!)
    else if (event.key === 'Escape') {
      adding.value = null
      asker?.focus()
    }
    else return
    event.preventDefault()
    event.stopPropagation()
  }, { capture: true })
  useEventListener(document, 'mousedown', () => adding.value = null)

  return { adding, open, take }
}
