/** Where a request comes from, and by which name it reached us: what proxies of the owner's say, and nobody else. */
import { isIP } from 'node:net'
import type { H3Event } from 'h3'
import { getHeader, getRequestHost, getRequestIP } from 'h3'
import { openWorkspaces } from './workspaces'
import { originOf } from './limiter'

/** What the outermost proxy of ours wrote: each adds at the right, and what stands further left is the visitor's own to choose. */
function hopOf(event: H3Event, header: string): string | undefined {
  const { proxies } = openWorkspaces().settings
  if (proxies === 0) return undefined
  const hops = (getHeader(event, header) ?? '').split(',').map(hop => hop.trim()).filter(hop => hop !== '')
  return hops.at(-Math.min(proxies, hops.length))
}

/** Our own host, as the visitor sees it. */
export function hostOf(event: H3Event): string {
  return hopOf(event, 'x-forwarded-host') ?? getRequestHost(event)
}

/** The visitor's address. A proxy may write a port behind it. */
export function visitorIp(event: H3Event): string {
  const hop = hopOf(event, 'x-forwarded-for')?.replace(/^\[([^\]]*)\](:\d+)?$/, '$1').replace(/^(\d+(?:\.\d+){3}):\d+$/, '$1')
  return hop !== undefined && isIP(hop) !== 0 ? hop : getRequestIP(event) ?? 'unknown'
}

/** Whom limits count: see {@link originOf}. */
export const originOfVisitor = (event: H3Event): string => originOf(visitorIp(event))
