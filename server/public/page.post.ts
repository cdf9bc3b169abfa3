/** The button of an opt-in page is pressed. */
import { defineEventHandler, getHeader, readRawBody, sendRedirect } from 'h3'
import { renderOptIn, TRAP_FIELD } from '#core/page/render'
import { readTouch } from '#core/page/touch'
import { log, openHouses } from '#server/houses'
import { visitorIp } from '#server/http'
import { optIn } from '#usecases/arrive/optIn'
import { InputProblem } from '#usecases/problem'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { optInForm } from '#server/schemas'
import { FILES, formOf, houseAt, page, slugOfEvent, pathAt, troublePage } from './page'

const MOST_BYTES = 16_384

export default defineEventHandler(async (event) => {
  try {
    const house = houseAt(event)
    const { slug, content } = publishedPage(house, slugOfEvent(event))
    const onward = (awaitsYes: boolean) => sendRedirect(event, pathAt(event, `/p/${slug}/${awaitsYes ? 'wait' : 'thanks'}`), 303)
    const tooLong = Number(getHeader(event, 'content-length') ?? 0) > MOST_BYTES
    const form = formOf(optInForm, new URLSearchParams(tooLong ? '' : await readRawBody(event) ?? ''))
    const typed = { email: form.email, firstName: form.first_name }
    const touch = readTouch(form.touch)
    const again = (status: number, problems: Record<string, string>) =>
      page(event, renderOptIn({ content, ...publicFace(house), files: FILES, action: pathAt(event, `/p/${slug}`), touch, typed, problems }), status)

    if (form[TRAP_FIELD]) {
      // A robot is thanked like anybody else, so that it learns nothing.
      log.info({ slug }, 'a robot was turned away')
      return onward(content.confirming.who !== 'nobody')
    }
    if (!openHouses().optIns.allows(visitorIp(event))) return again(429, { form: 'Too many tries from your address. Please wait ten minutes, then press the button again.' })
    try {
      return onward(optIn(house, { slug, ...typed, zone: form.zone, ip: visitorIp(event), touch }).awaitsYes)
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
