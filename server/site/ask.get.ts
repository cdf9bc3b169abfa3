/** Where a link leads that wants a second press. Looking changes nothing. */
import { defineEventHandler, getQuery } from 'h3'
import { renderAsk } from '#core/page/ask'
import type { WorkspaceContext } from '#usecases/context'
import { NotThere } from '#usecases/problem'
import { askedFirst } from '#usecases/reading/click'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { label, url } = askedFirst(context, ...readAskToken(context, tokenOf(event)))
    const done = getQuery(event).done
    return page(event, renderAsk({
      ...publicFace(context), files: FILES, action: pathAt(event, `/k/${tokenOf(event)}`), label, url,
      done: done === 'yes' || done === 'undone' ? done : null,
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** Which email, and which of its links. */
export function readAskToken(context: WorkspaceContext, token: string): [outboxId: number, linkN: number] {
  const what = context.signer.read('ask', token)
  if (what === null) throw new NotThere('This link is not complete.')
  return what.split('.').map(Number) as [number, number]
}
