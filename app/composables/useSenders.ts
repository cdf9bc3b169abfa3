/** Who an email is from, as far as that does not depend on its reader. */
import { computed, onMounted, ref } from 'vue'
import type { SenderLine } from '#core/views/senders'
import { api } from './useApi'

export function useSenders(asked: () => { senderId: number | null, listId: number | null }) {
  const senders = ref<SenderLine[]>([])
  onMounted(async () => senders.value = (await api('GET /senders').catch(() => null))?.senders ?? [])
  /** One that was removed counts for nothing. */
  const chosen = computed(() => senders.value.find(({ id }) => id === asked().senderId) ?? null)
  const usual = computed(() => senders.value.find(({ listIds }) => asked().listId !== null && listIds.includes(asked().listId!))
    ?? senders.value.find(({ isDefault }) => isDefault) ?? null)
  return { senders, chosen, usual }
}
