/** The button of an opt-in page is pressed. */
import { defineEventHandler, getHeader, sendRedirect, setResponseStatus } from 'h3'
import { TRAP_FIELD } from '#core/page/formHtml'
import type { PageForm, Typed } from '#core/page/form'
import { endingOf } from '#core/page/cameTo'
import { readTouch, touchOf } from '#core/page/touch'
import { formWithin } from '#server/body'
import { log, openWorkspaces } from '#server/workspaces'
import { hostOf, originOfVisitor, visitorIp } from '#server/visitor'
import { optIn } from '#usecases/arrive/optIn'
import { InputProblem } from '#usecases/problem'
import { publishedPage } from '#usecases/views/publicPages'
import { optInForm } from '#server/schemas'
import { embedded, embeddedWords, formOf, forAnySite, contextAt, optInPage, slugOfEvent, pathAt, troublePage } from './page'

const MOST_BYTES = 16_384

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const published = publishedPage(context, slugOfEvent(event))
    const { slug, content } = published
    // The script of an embedded form shows the answer in its own place.
    const inPlace = getHeader(event, 'accept') === 'application/json'
    if (inPlace) forAnySite(event)
    const onward = ({ awaitsYes, resultId }: { awaitsYes: boolean, resultId: string | null }) => {
      const { confirming } = content
      // Known or not: whoever typed the address is answered the same.
      const { thanks, redirectUrl } = endingOf(content, { known: false, resultId })
      if (!inPlace) {
        const thanksPath = pathAt(event, `/p/${slug}/thanks${resultId !== null ? `?result=${resultId}` : ''}`)
        return sendRedirect(event, awaitsYes ? pathAt(event, `/p/${slug}/wait`) : redirectUrl ?? thanksPath, 303)
      }
      if (awaitsYes) return embeddedWords(content, confirming.waitHeadline, confirming.waitText)
      return redirectUrl !== null ? { redirect: redirectUrl } : embeddedWords(content, thanks.headline, thanks.text)
    }
    const whole = await formWithin(event, MOST_BYTES)
    const sent = whole ?? new URLSearchParams()
    const form = formOf(optInForm, sent)
    const filled = { email: form.email, firstName: form.first_name, answers: answersIn(sent, content.form) }
    // A form pasted into another site carries nothing of what brought the visitor but that site itself.
    const touch = form.touch === '' ? touchOf({}, getHeader(event, 'referer'), hostOf(event)) : readTouch(form.touch)
    const again = (status: number, problems: Record<string, string>) => {
      if (!inPlace) return optInPage(event, context, published, { touch, by: form.by, filled, problems }, status)
      setResponseStatus(event, status)
      return embedded(context, published, { touch, filled, problems })
    }

    if (whole === null) {
      return again(413, { form: 'This is more than the form can take. Please write less and try again.' })
    }
    if (form[TRAP_FIELD]) {
      // A robot is thanked like anybody else, so that it learns nothing.
      log.info({ slug }, 'a robot was turned away')
      return onward({ awaitsYes: content.confirming.who !== 'nobody', resultId: null })
    }
    if (!await openWorkspaces().optIns.allows(originOfVisitor(event))) return again(
      429, { form: 'Too many tries from your network. Please wait ten minutes and try again.' }
    )
    try {
      return onward(optIn(context, { slug, ...filled, meant: form.meant, by: form.by, zone: form.zone, ip: visitorIp(event), touch }))
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
