/**
 * A dialog gives the focus to what is marked for it, and to its closing button where nothing is; a list or an editor cannot be marked. Its
 * first field is given the focus instead, once it is there.
 */
import { ref, useTemplateRef, watch } from 'vue'
import { useMutationObserver } from '@vueuse/core'

const FIELDS = 'input, textarea, [role="combobox"], [contenteditable="true"]'

/** `name`: that of the template's ref to what the fields stand in. */
export function useFirstField(name: string): void {
  const form = useTemplateRef<HTMLElement>(name)
  const given = ref(false)
  const give = () => {
    const field = form.value?.querySelector<HTMLElement>(FIELDS)
    if (given.value || !field) return
    given.value = true
    // For a dialog that is still coming in and chooses at its end; and for one that has chosen.
    field.setAttribute('autofocus', '')
    field.focus()
  }
  watch(form, (there) => {
    given.value = false
    if (there) give()
  })
  useMutationObserver(form, give, { childList: true, subtree: true })
}
