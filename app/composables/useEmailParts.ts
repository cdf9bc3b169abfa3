/** What emails of this workspace can show besides their own words: parts that are written once, and what is sold. */
import { onMounted, ref, shallowRef } from 'vue'
import type { RichText } from '#core/message/content'
import { inlineParts } from '#core/message/complete'
import type { EmailPartLine } from '#core/views/email'
import type { Instant } from '#core/time/zone'
import { api } from './useApi'

export interface OfferToShow { id: number, name: string, price: string, closesAt: Instant | null }

export function useEmailParts() {
  const parts = shallowRef<EmailPartLine[]>([])
  const offers = shallowRef<OfferToShow[]>([])
  /** They have been asked for, whatever came of it. */
  const isLoaded = ref(false)
  async function load() {
    parts.value = await api('GET /email-parts').catch(() => [])
    isLoaded.value = true
  }
  async function loadOffers() {
    const all = await api('GET /offers').catch(() => [])
    offers.value = all.filter(({ status }) => status === 'published')
      .map(({ id, name, price, closesAt }) => ({ id, name, price, closesAt }))
  }
  onMounted(() => Promise.all([load(), loadOffers()]))
  const of = (partId: number) => parts.value.find(({ id }) => id === partId)
  return {
    parts, offers, isLoaded, load,
    /** With the parts in their place, as it will be made. */
    whole: <Content>(content: Content): Content => inlineParts(content, partId => of(partId)?.body),
    async keep(name: string, body: RichText) {
      const { id } = await api('POST /email-parts', { body: { name, body } })
      await load()
      return id
    },
  }
}
