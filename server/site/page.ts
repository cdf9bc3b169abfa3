/** What the public handlers share. */
import type { H3Event } from 'h3'
import { getHeader, getRouterParam, setResponseHeader, setResponseStatus } from 'h3'
import { databaseTrouble } from '#runtime/problems'
import type { PageContent } from '#core/page/content'
import { themeClasses } from '#core/page/theme'
import { embeddedHtml, renderNotice, renderOptIn, wordsHtml, type OptInView } from '#core/page/render'
import type { PageText } from '#core/page/text'
import { redirectsOf } from '#core/page/cameTo'
import { formWithin } from '#server/body'
import { Refused } from '#server/refused'
import { log, openWorkspaces } from '#server/workspaces'
import type { WorkspaceContext } from '#usecases/context'
import { InputProblem, NotNow, NotThere } from '#usecases/problem'
import { drawingOf, publicFace, type PublishedPage } from '#usecases/views/publicPages'
import { isbot } from 'isbot'
import type Joi from 'joi'
import type { Visit } from '#usecases/reading/open'

/** Where the payment service sends buyers is its own to say. */
export const ANYWHERE = 'https:'

export const FILES = { css: '/public.css', script: '/page.js' }

/** Practice addresses begin with /practice; everything else is live. */
export function contextAt(event: H3Event): WorkspaceContext {
  return openWorkspaces().of(event.path.startsWith('/practice/') ? 'practice' : 'live')
}

/** Path of a public page of this workspace. */
export const pathAt = (event: H3Event, path: string) => `${event.path.startsWith('/practice/') ? '/practice' : ''}${path}`

export const slugOfEvent = (event: H3Event) => decodeURIComponent(getRouterParam(event, 'slug') ?? '')
/** No token of ours is longer; nothing of what is gets any further. */
const LONGEST_TOKEN = 400
export const tokenOf = (event: H3Event) => (getRouterParam(event, 'token') ?? '').slice(0, LONGEST_TOKEN)

export function visitOf(event: H3Event, context: WorkspaceContext): Visit {
  const agent = getHeader(event, 'user-agent') ?? ''
  return { agent: agent.slice(0, 300), robot: agent === '' || isbot(agent), certain: context.mode === 'practice' }
}

/**
 * Sends a public page: nothing in it may run but our own script, and no other site may frame it. `onward`: addresses elsewhere that the
 * owner sends people to after the form.
 */
export function page(event: H3Event, html: string, status = 200, onward: string[] = []): string {
  const formMayLeadTo = ["'self'", ...new Set(onward.map(url => url === ANYWHERE ? url : URL.parse(url)?.origin ?? "'self'"))].join(' ')
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  setResponseHeader(
    event, 'content-security-policy',
    `default-src 'none'; style-src 'self'; script-src 'self'; img-src 'self'; font-src 'self'; form-action ${formMayLeadTo}; base-uri 'none'; frame-ancestors 'none'`,
  )
  setResponseHeader(event, 'cache-control', 'no-store')
  return html
}

/** An email as a page of its own: nothing in it runs, and nobody who follows a link in it tells where they were. */
export function emailPage(event: H3Event, html: string): string {
  setResponseHeader(
    event, 'content-security-policy',
    `default-src 'none'; img-src 'self' https: data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'`,
  )
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  setResponseHeader(event, 'referrer-policy', 'no-referrer')
  return html
}

/** A form as its schema has it; a field given twice counts once, the last time. Throws an {@link InputProblem} if it does not fit. */
export function formOf<Form>(schema: Joi.ObjectSchema<Form>, form: URLSearchParams): Form {
  const { value, error } = schema.validate(Object.fromEntries(form), { stripUnknown: true })
  if (error) throw new InputProblem([
    { field: error.details[0]!.path.join('.'), problem: 'Something was not understood. Please go back and choose again.' },
  ])
  return value
}

/** After so long it makes sense to ask a busy server again. */
const BUSY_SECONDS = 10

/** Any trouble on a public page as a page of its own, in words for a visitor. */
export function troublePage(event: H3Event, error: unknown): string {
  const known = error instanceof NotThere
  if (error instanceof NotNow) {
    return page(event, renderNotice({ title: 'Not any more', text: error.message, senderName: nameOf(event), files: FILES }), 409)
  }
  if (error instanceof InputProblem) return page(
    event, renderNotice({ title: 'Something was not understood', text: error.message, senderName: nameOf(event), files: FILES }), 400,
  )
  if (error instanceof Refused && error.status === 503) {
    log.warn(`${error.message} A public page was not shown.`)
    setResponseHeader(event, 'retry-after', BUSY_SECONDS)
    return page(event, renderNotice({
      title: 'Please try again in a moment', text: 'There is much to do here right now.', senderName: nameOf(event), files: FILES,
    }), 503)
  }
  // Visitors need not know what is broken; the log says it in one sentence.
  const trouble = databaseTrouble(error)
  if (!known) log.error({ err: error }, trouble?.sentence ?? 'a public page failed')
  return page(event, renderNotice({
    title: known ? 'Page not found' : 'This did not work',
    text: known ? error.message : 'Something went wrong on our side. Please try again in a moment.',
    senderName: nameOf(event),
    files: FILES,
  }), known ? 404 : trouble ? 503 : 500)
}

function nameOf(event: H3Event): string {
  try {
    return publicFace(contextAt(event)).senderName
  }
  catch {
    return ''
  }
}

/** An opt-in page as this visitor gets it. */
export function optInPage(
  event: H3Event, context: WorkspaceContext, published: PublishedPage, visit: Pick<OptInView, 'touch' | 'by' | 'filled' | 'problems'>,
  status = 200,
): string {
  const { content, slug } = published
  return page(event, renderOptIn({
    content, ...publicFace(context), ...drawingOf(context, published), files: FILES, action: pathAt(event, `/p/${slug}`),
    at: path => pathAt(event, path), ...visit,
  }), status, redirectsOf(content))
}

/** Somebody looks: not a robot, not for the headers alone, and not fetched ahead of a press that may never come. */
export function isVisit(event: H3Event, context: WorkspaceContext): boolean {
  return event.method === 'GET' && !visitOf(event, context).robot
    && !/\bprefetch\b/.test(`${getHeader(event, 'sec-purpose') ?? ''} ${getHeader(event, 'purpose') ?? ''}`)
}

/** Any site may ask for this, and for nothing of who asks: neither cookies nor sign-in go along. */
export function forAnySite(event: H3Event): void {
  setResponseHeader(event, 'access-control-allow-origin', '*')
  setResponseHeader(event, 'cross-origin-resource-policy', 'cross-origin')
  setResponseHeader(event, 'vary', 'accept')
}

/** A form within another site: its HTML, and the classes of its look. */
export function embedded(
  context: WorkspaceContext, { content, slug, ...published }: PublishedPage, visit: Pick<OptInView, 'touch' | 'filled' | 'problems'>,
): { classes: string, html: string } {
  const { fields, url } = drawingOf(context, { content, slug, ...published })
  // The other site says how dark it is.
  return { classes: themeClasses({ ...content.theme, night: false }), html: embeddedHtml({ content, fields, action: url, ...visit }) }
}

/** What comes after the form, within another site. */
export const embeddedWords = ({ theme }: PageContent, headline: string, text: PageText): { classes: string, html: string } => ({
  classes: themeClasses({ ...theme, night: false }), html: wordsHtml(headline, text),
})

const MOST_FORM_BYTES = 32_768

/** What is far too long is as good as nothing: leaving must work whatever else was sent. */
export const sentForm = async (event: H3Event): Promise<URLSearchParams> =>
  await formWithin(event, MOST_FORM_BYTES) ?? new URLSearchParams()
