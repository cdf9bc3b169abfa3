/** What someone gets from us, to be chosen. Looking changes nothing. */
import type { H3Event } from 'h3'
import { defineEventHandler, getQuery } from 'h3'
import { hideMiddle } from '#core/page/render'
import { renderChoices, type ChoicesView } from '#core/page/choices'
import { choicesOf } from '#usecases/arrive/choices'
import { readChoicesToken } from '#usecases/arrive/leave'
import type { WorkspaceContext } from '#usecases/context'
import { publicFace, publicZone } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

/** What was just done, in words. */
const DONE: Record<string, string> = {
  'course': 'Done. Nothing more of that course will be sent.',
  'list': 'Done. You are off that list.',
  'everything': 'Done. Nothing more will be sent.',
  'save': 'Your choices are saved.',
  'pause': 'Done. Nothing will be sent for 30 days.',
  'go-on': 'The pause is over. Everything continues where it was.',
  'take-back': 'Undone. Everything is as it was.',
  'undo': 'Undone. It is as if you had not clicked that link.',
  'come-back': 'Welcome back. You will get our emails again.',
  'address': 'We have sent an email to the new address. Click the button in it to confirm.',
  'no-more': 'Done. You will get nothing more about that.',
  'again': 'Done. You may hear about that again.',
  'why': 'Thank you. Your answer is counted without your name.',
}

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const done = DONE[String(getQuery(event).done ?? '')]
    return choicesPage(event, context, readChoicesToken(context, tokenOf(event)), done === undefined ? {} : { done })
  }
  catch (error) {
    return troublePage(event, error)
  }
})

export function choicesPage(
  event: H3Event, context: WorkspaceContext, outboxId: number, more: Pick<ChoicesView, 'done'> & Partial<Pick<ChoicesView, 'address'>>,
  status = 200,
): string {
  const choices = choicesOf(context, outboxId)
  return page(event, renderChoices({
    ...publicFace(context), files: FILES, action: pathAt(event, `/m/${tokenOf(event)}`), ...choices,
    shownAddress: hideMiddle(choices.address), zone: publicZone(context), address: { typed: '', problem: undefined }, ...more,
  }), status)
}
