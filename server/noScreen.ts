/** Refusals before any handler of ours is asked: for programs in JSON, for people as a page. */
import type { H3Event } from 'h3'
import { setResponseHeader, setResponseStatus } from 'h3'
import { renderNotice } from '#core/page/render'
import { FILES, page } from './site/page'

const TITLES: Record<number, string> = {
  400: 'This address cannot be read', 404: 'Page not found', 405: 'This page only shows something', 421: 'This is not the right address',
}

const isForPrograms = (event: H3Event) => /^\/(api|v1|practice\/v1|hooks|practice\/hooks)(\/|$|\?)/.test(event.path)

export function refuse(event: H3Event, status: number, problem: string): string | { problem: string } {
  if (!isForPrograms(event)) {
    const title = TITLES[status] ?? 'This did not work'
    return page(event, renderNotice({ title, text: problem, senderName: '', files: FILES }), status)
  }
  setResponseStatus(event, status)
  setResponseHeader(event, 'cache-control', 'no-store')
  return { problem }
}

/** What the router found for a path, whichever method was asked for. */
interface MatchedRoute { path: string, handlers: Partial<Record<string, (event: H3Event) => unknown>> }
const NOTHING_HERE = 'Nothing is at this address. It may be mistyped, or what was here no longer exists.'
const METHODS = ['get', 'post', 'put', 'delete']

/**
 * Everything that no handler takes falls to the application's page. Only its own screens are answered with that; the rest is
 * an address that is not there, or that takes another method. Returns undefined for a screen.
 */
export async function answerWithoutScreen(event: H3Event, isScreen: (path: string) => boolean): Promise<{ body: unknown } | undefined> {
  const route = event.context.matchedRoute as MatchedRoute | undefined
  if (!route || route.path === '/**') {
    if (!isScreen(event.path.split('?')[0]!)) return { body: refuse(event, 404, NOTHING_HERE) }
    return ['GET', 'HEAD'].includes(event.method) ? undefined : { body: notTaken(event, ['get']) }
  }
  // The headers alone are those of the whole answer (RFC 9110 section 9.3.2); the body is left out on the way.
  const read = route.handlers.get
  if (event.method === 'HEAD' && read) return { body: await read(event) }
  return { body: notTaken(event, METHODS.filter(method => route.handlers[method])) }
}

function notTaken(event: H3Event, methods: string[]) {
  const names = methods.flatMap(method => method === 'get' ? ['GET', 'HEAD'] : [method.toUpperCase()])
  setResponseHeader(event, 'allow', names.join(', '))
  return refuse(event, 405, `This address accepts ${names.join(', ')} and nothing else.`)
}
