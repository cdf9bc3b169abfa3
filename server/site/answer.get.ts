/** What a reader chose in an email. Looking changes nothing. */
import { defineEventHandler } from 'h3'
import { renderChoice } from '#core/page/choice'
import type { WorkspaceContext } from '#usecases/context'
import { NotThere } from '#usecases/problem'
import { chosenView } from '#usecases/reading/choose'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { says, answers } = chosenView(context, ...readAnswerToken(context, tokenOf(event)))
    return page(event, renderChoice({ ...publicFace(context), files: FILES, action: pathAt(event, `/q/${tokenOf(event)}`), says, answers }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** Which email, and which of its links. */
export function readAnswerToken(context: WorkspaceContext, token: string): [outboxId: number, linkN: number] {
  const what = context.signer.read('answer', token)
  if (what === null) throw new NotThere('This link is not complete.')
  return what.split('.').map(Number) as [number, number]
}
