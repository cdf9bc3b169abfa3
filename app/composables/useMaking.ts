/** Making a page, a course or an offer by its name, and going there. */
import { navigateTo } from '#imports'
import { api } from './useApi'
import { useFrame } from '~/stores/frame'

export function useMaking() {
  const frame = useFrame()
  const make = (what: 'pages' | 'courses' | 'offers') => async (name: string, more: Record<string, unknown> = {}) => {
    const { id } = await api<{ id: number }>(what, { method: 'POST', body: { name, ...more } })
    await navigateTo(`/${what}/${id}`)
    await frame.changed()
  }
  return { makePage: make('pages'), makeCourse: make('courses'), makeOffer: make('offers') }
}
