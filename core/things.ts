/** What the owner makes, and what others of them can name. */

/** `hookIn` is an address of ours that something outside calls, `hookOut` one outside that we call. */
export type ThingKind =
  | 'page' | 'list' | 'tag' | 'field' | 'link' | 'course' | 'offer' | 'segment' | 'hookIn' | 'hookOut' | 'rule' | 'part' | 'broadcast'

export interface Thing { kind: ThingKind, id: number }

/** What something is called that no longer exists. */
export const THING_WORDS: Record<ThingKind, string> = {
  page: 'a page', list: 'a list', tag: 'a tag', field: 'a field', link: 'a link', course: 'a course', offer: 'an offer',
  segment: 'a segment',
  hookIn: 'an incoming webhook', hookOut: 'an outgoing webhook', rule: 'a house rule', part: 'an email part',
  broadcast: 'a broadcast',
}
