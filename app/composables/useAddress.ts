/** Filter, sort and page of a table live in the address, so that a view can be kept, shared and gone back to. */
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { navigateTo, onBeforeRouteLeave, useRoute } from '#imports'

type Values = Record<string, string>

/**
 * `defaults` name every value; one that equals its default is left out of the address. Changing anything but the page goes to the first
 * page.
 */
export function useAddress<Defaults extends Values>(defaults: Defaults) {
  const route = useRoute()
  const values = computed(() => Object.fromEntries(Object.entries(defaults).map(([name, value]) => {
    const given = route.query[name]
    return [name, typeof given === 'string' ? given : value]
  })) as { [Name in keyof Defaults]: string })

  async function set(change: Partial<Record<keyof Defaults, string>>) {
    const next: Values = {
      ...values.value, ...('page' in change || !('page' in defaults) ? {} : { page: defaults.page! }), ...change as Values,
    }
    const query = Object.fromEntries(Object.entries(next).filter(([name, value]) => value !== defaults[name]))
    await navigateTo({ path: route.path, query }, { replace: true })
  }

  /** As the server is asked. */
  const question = computed(() => Object.fromEntries(
    Object.entries(values.value).filter(([name, value]) => value !== defaults[name]),
  ) as Partial<Record<keyof Defaults, string>>)

  return { values, set, question }
}

const QUIET_MS = 250

/** The text of a search box, which reaches the address a moment after the last letter, and never once the page is being left. */
export function useSearchBox(search: () => string, set: (search: string) => unknown): Ref<string> {
  const typed = ref(search())
  let timer: ReturnType<typeof setTimeout> | undefined
  let sent: string | null = null
  const forget = () => clearTimeout(timer)
  watch(typed, (text) => {
    forget()
    if (text !== search()) timer = setTimeout(() => set(sent = text), QUIET_MS)
  })
  // What comes back of what was typed here must not undo what has been typed since.
  watch(search, (text) => {
    if (text !== sent) typed.value = text
    sent = null
  })
  onBeforeRouteLeave(forget)
  onBeforeUnmount(forget)
  return typed
}
