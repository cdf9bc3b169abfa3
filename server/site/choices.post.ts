/** A button of the choices page, or a mail program's one press (RFC 8058 section 3.2). */
import { defineEventHandler, sendRedirect, setResponseHeader } from 'h3'
import { answerWhy, askOtherAddress, choose, chooseOffer, comeBack, pause, takeBackClick } from '#usecases/arrive/choices'
import { leave, readChoicesToken } from '#usecases/arrive/leave'
import { takeBack } from '#usecases/arrive/takeBack'
import type { WorkspaceContext } from '#usecases/context'
import { choicesForm } from '#server/schemas'
import { InputProblem } from '#usecases/problem'
import { choicesPage } from './choices.get'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const outboxId = readChoicesToken(context, tokenOf(event))
    const sent = await sentForm(event)
    const form = formOf(choicesForm, sent)
    if (form['List-Unsubscribe'] === 'One-Click') {
      leave(context, outboxId, { what: 'everything' })
      // No page, no redirect, no cookie: a machine is waiting for nothing but the status.
      setResponseHeader(event, 'content-type', 'text/plain; charset=utf-8')
      return 'Done.'
    }
    if (form.do === null) {
      throw new InputProblem([{ field: 'do', problem: 'Nothing was chosen. Please go back and choose one of the buttons.' }])
    }
    try {
      await act(context, outboxId, form.do, sent, form)
    }
    catch (error) {
      if (!(error instanceof InputProblem) || form.do !== 'address') throw error
      return choicesPage(event, context, outboxId, { address: { typed: form.address, problem: error.problems[0]!.problem } }, 422)
    }
    return sendRedirect(event, `${pathAt(event, `/m/${tokenOf(event)}`)}?done=${form.do.replace(/-\d+$/, '')}`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})

async function act(
  context: WorkspaceContext, outboxId: number, what: string, sent: URLSearchParams, form: { address: string, why: string },
): Promise<void> {
  switch (what) {
    case 'course':
    case 'everything': return leave(context, outboxId, { what })
    case 'save': return choose(context, outboxId, { listIds: numbers(sent, 'list'), tagIds: numbers(sent, 'interest') })
    case 'pause': return pause(context, outboxId, true)
    case 'go-on': return pause(context, outboxId, false)
    case 'take-back': return takeBack(context, outboxId)
    case 'come-back': return comeBack(context, outboxId)
    case 'address': return askOtherAddress(context, outboxId, form.address)
    case 'why': return answerWhy(context, outboxId, form.why)
    default:
      break
  }
  const [, wants, id] = /^(no-more|again|list|undo)-(\d+)$/.exec(what)!
  if (wants === 'undo') return takeBackClick(context, outboxId, Number(id))
  if (wants === 'list') leave(context, outboxId, { what: 'list', listId: Number(id) })
  else chooseOffer(context, outboxId, Number(id), wants as 'no-more' | 'again')
}

const numbers = (sent: URLSearchParams, name: string) => sent.getAll(name).slice(0, 400).map(Number).filter(Number.isSafeInteger)
