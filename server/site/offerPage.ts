/** An offer's page as this visitor gets it. */
import type { H3Event } from 'h3'
import { renderOffer } from '#core/offers/render'
import type { BoxView } from '#core/offers/boxHtml'
import type { House } from '#usecases/house'
import { drawingOfOffer, type PublishedOffer } from '#usecases/views/publicOffers'
import { publicFace } from '#usecases/views/publicPages'
import { ANYWHERE, FILES, page, pathAt } from './page'

/** `code`: typed, or brought along with the address; one that does not count is only told of where it was typed. */
export function offerPage(event: H3Event, house: House, offer: PublishedOffer, visit: Pick<BoxView, 'touch' | 'filled' | 'problems'> & { code: string }, status = 200): string {
  const { codeProblem, ...drawing } = drawingOfOffer(house, offer, visit.code)
  const problems = { ...visit.problems, ...codeProblem !== null && { code: codeProblem } }
  return page(event, renderOffer({ ...publicFace(house), ...drawing, ...visit, problems, files: FILES, action: pathAt(event, `/s/${offer.slug}`), at: path => pathAt(event, path) }), status, house.mode === 'live' ? [ANYWHERE] : [])
}
