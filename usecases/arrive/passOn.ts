/** A reader's own address of a page, to be passed on. Whoever comes by it opts in for themselves, or not. */
import type { Touch } from '#core/page/touch'
import { latestPageOf } from '#data/pages'
import { findPerson } from '#data/people'
import type { WorkspaceContext } from '../context'

/** How visits by such addresses are counted together. */
const PASSED_ON = 'forwarded by readers'

/** Of the page they came by last, if it is still there; null if none is. */
export function passOnUrl({ db, signer, baseUrl }: WorkspaceContext, personId: number): string | null {
  const slug = latestPageOf(db, personId)
  return slug === undefined ? null : `${baseUrl}/p/${slug}?by=${signer.sign('passed-on', String(personId))}`
}

/** Whose address it is; null for one that we did not make, or of somebody who is gone. */
export function passedBy({ db, signer }: WorkspaceContext, token: string): number | null {
  const what = token === '' ? null : signer.read('passed-on', token)
  return what !== null && findPerson(db, Number(what)) ? Number(what) : null
}

export const passedOnTouch = (touch: Touch): Touch =>
  touch.named === '' && touch.source === '' ? { ...touch, source: PASSED_ON, referrer: '' } : touch
