/** The button of an opt-in page is pressed. */
import { defineEventHandler, getHeader, readRawBody, sendRedirect } from 'h3'
import { TRAP_FIELD } from '#core/page/formHtml'
import type { PageForm, Typed } from '#core/page/form'
import { readTouch } from '#core/page/touch'
import { log, openHouses } from '#server/houses'
import { visitorIp } from '#server/http'
import { optIn } from '#usecases/arrive/optIn'
import { InputProblem } from '#usecases/problem'
import { publishedPage } from '#usecases/views/publicPages'
import { optInForm } from '#server/schemas'
import { formOf, houseAt, optInPage, slugOfEvent, pathAt, troublePage } from './page'

const MOST_BYTES = 16_384

export default defineEventHandler(async (event) => {
  try {
    const house = houseAt(event)
    const published = publishedPage(house, slugOfEvent(event))
    const { slug, content } = published
    const onward = ({ awaitsYes, known }: { awaitsYes: boolean, known: boolean }) =>
      sendRedirect(event, awaitsYes ? pathAt(event, `/p/${slug}/wait`) : content.redirectUrl ?? pathAt(event, `/p/${slug}/thanks${known ? '?known=1' : ''}`), 303)
    const tooLong = Number(getHeader(event, 'content-length') ?? 0) > MOST_BYTES
    const sent = new URLSearchParams(tooLong ? '' : await readRawBody(event) ?? '')
    const form = formOf(optInForm, sent)
    const filled = { email: form.email, firstName: form.first_name, answers: answersIn(sent, content.form) }
    const touch = readTouch(form.touch)
    const again = (status: number, problems: Record<string, string>) => optInPage(event, house, published, { touch, filled, problems }, status)

    if (form[TRAP_FIELD]) {
      // A robot is thanked like anybody else, so that it learns nothing.
      log.info({ slug }, 'a robot was turned away')
      return onward({ awaitsYes: content.confirming.who !== 'nobody', known: false })
    }
    if (!openHouses().optIns.allows(visitorIp(event))) return again(429, { form: 'Too many tries from your address. Please wait ten minutes, then press the button again.' })
    try {
      return onward(optIn(house, { slug, ...filled, meant: form.meant, zone: form.zone, ip: visitorIp(event), touch }))
    }
    catch (error) {
      if (!(error instanceof InputProblem)) throw error
      return again(422, Object.fromEntries(error.problems.map(({ field, problem }) => [field, problem])))
    }
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** What was answered, by the id of what asked. */
function answersIn(sent: URLSearchParams, { asks, boxes }: PageForm): Typed {
  return Object.fromEntries([...asks, ...boxes].map(({ id }) => [id, sent.getAll(id).slice(0, 40)]))
}
