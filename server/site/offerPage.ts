/** An offer's page as this visitor gets it. */
import type { H3Event } from 'h3'
import { renderOffer } from '#core/offers/render'
import type { BoxView } from '#core/offers/boxHtml'
import { openWorkspaces } from '#server/workspaces'
import { originOfVisitor } from '#server/visitor'
import type { WorkspaceContext } from '#usecases/context'
import { drawingOfOffer, type PublishedOffer } from '#usecases/views/publicOffers'
import { publicFace } from '#usecases/views/publicPages'
import { ANYWHERE, FILES, page, pathAt } from './page'

/** What is said in the place of a code that is one of too many. */
export const TOO_MANY_CODES = 'Too many codes were tried from your network. Wait ten minutes, then try again.'

/** Whether a code may be looked at; nothing typed is no code. */
export const maySeeCode = async (
  event: H3Event, code: string
): Promise<boolean> => code.trim() === '' || await openWorkspaces().codes.allows(originOfVisitor(event))

/** `code`: typed, or brought along with the address, and not to be guessed. */
export function offerPage(
  event: H3Event, context: WorkspaceContext, offer: PublishedOffer,
  visit: Pick<BoxView, 'touch' | 'filled' | 'problems'> & { code: string }, status = 200,
): string {
  const { codeProblem, ...drawing } = drawingOfOffer(context, offer, visit.code)
  const problems = { ...visit.problems, ...codeProblem !== null && { code: codeProblem } }
  return page(event, renderOffer({
    ...publicFace(context), ...drawing, ...visit, problems, files: FILES, action: pathAt(event, `/s/${offer.slug}`),
    at: path => pathAt(event, path),
  }), status, context.mode === 'live' ? [ANYWHERE] : [])
}
