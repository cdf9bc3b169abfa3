/**
 * A broadcast as a file of its own, pictures and files included: JSON, with the draft as it is and a list of names for the numbers in it.
 * Nobody it went to, and nothing that came of it, is in there.
 */
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { ThingKind } from '#core/things'
import { conditionWithout, emailWithout, type IsMissing } from './lacking'
import { withNames, type Describe, type PortableNames } from './portable'

export const BROADCAST_FORMAT = 'keen-porch broadcast'
export const BROADCAST_VERSION = 1

/** In base64 (RFC 4648), by the numbers under which the draft has them. */
export interface PortableContents {
  pictures: Record<string, { name: string, content: string }>
  files: Record<string, { name: string, type: string, content: string }>
}

export interface PortableBroadcast {
  format: typeof BROADCAST_FORMAT
  version: typeof BROADCAST_VERSION
  name: string
  names: PortableNames
  draft: BroadcastDraft
  contents: PortableContents
}

/** What belongs to its workspace stays behind: who it is from, when it goes, and that it goes again. */
export function toPortable(
  { name, draft, contents }: Pick<PortableBroadcast, 'name' | 'draft' | 'contents'>, describe: Describe,
): PortableBroadcast {
  const { senderId: _, ...content } = draft.content
  const plain: BroadcastDraft = { ...draft, content, when: { kind: 'now' }, again: null }
  return { format: BROADCAST_FORMAT, version: BROADCAST_VERSION, name, ...withNames(plain, describe), contents }
}

/** Without what names something that is not there. */
export function withoutMissing({ listId, who, guards, story, ...draft }: BroadcastDraft, is: IsMissing): BroadcastDraft {
  const there = <Id extends number | null>(kind: ThingKind, id: Id) => id !== null && is(kind, id) ? null : id
  return {
    ...draft, content: emailWithout(draft.content, is), listId: there('list', listId), who: conditionWithout(who, is),
    guards: { ...guards, insideCourseIds: guards.insideCourseIds.filter(id => !is('course', id)) },
    story: { ...story, offerId: there('offer', story.offerId) },
  }
}
