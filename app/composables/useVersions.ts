/** Who gets which version of the email that is written, and as whom it is looked at. */
import { computed, onMounted, ref, shallowRef, watch, type Ref } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { choicesOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import type { AskedReader, EmailVersions, WrittenEmail } from '#core/views/email'
import { api } from './useApi'
import { useNewest } from './useNewest'

export interface ShownReader extends AskedReader {
  /** Null for nobody in particular. */
  address: string | null
}

/** Somebody invented, whose name is known or not. */
export const invented = (firstName: string): ShownReader => ({ personId: null, firstName, chosen: null, address: null })

export function useVersions(mail: Ref<MessageContent>, email: () => Omit<WrittenEmail, 'content'> & { stepId: string | null }) {
  const versions = shallowRef<EmailVersions | null>(null)
  const problem = ref<string | null>(null)
  const reader = shallowRef<ShownReader>(invented('Ines'))
  const at = ref(0)

  const asked = useNewest()
  async function count() {
    const isNewest = asked()
    try {
      const answer = await api('POST /emails/versions', { body: { ...email(), content: mail.value } })
      if (!isNewest()) return
      versions.value = answer
      problem.value = null
    }
    catch (error) {
      if (!isNewest()) return
      versions.value = null
      problem.value = (error as Error).message
    }
  }
  /* What is written changes nothing of who gets what. */
  const choices = computed(() => JSON.stringify(choicesOf(mail.value)))
  watchDebounced(choices, count, { debounce: 500 })
  watch(() => JSON.stringify(email()), count)
  onMounted(count)
  watch(versions, (now) => {
    if (reader.value.personId === null || reader.value.chosen !== null) return
    const n = now?.versions.findIndex(one => one.reader.id === reader.value.personId) ?? -1
    if (n >= 0) at.value = n
  })

  /** The version that somebody gets of those that exist. */
  function step(n: number) {
    const all = versions.value?.versions ?? []
    if (all.length === 0) return
    at.value = (n + all.length) % all.length
    const { reader: someone } = all[at.value]!
    reader.value = { personId: someone.id, firstName: someone.name, address: someone.address, chosen: null }
  }
  /** What this reader gets of each choice; null while it is not known. */
  const chosen = computed(() => reader.value.personId === null ? null : versions.value?.versions[at.value]?.chosen ?? null)

  return { versions, problem, reader, at, step, chosen }
}
