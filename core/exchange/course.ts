/**
 * A course as a file of its own: what it is about goes along by name, so that
 * it can be brought into another workspace. Open and plain: JSON, with the
 * draft as it is and a list of names for the numbers in it.
 */
import type { Condition } from '#core/audience/condition'
import { mapIds } from '#core/mentions'
import { TRIGGERS, type Action, type Trigger } from '#core/rules/rule'
import { mapSteps, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import type { Reaction } from '#core/sequence/program'
import { conditionWithout, emailWithout, namesMissing, type IsMissing } from './lacking'
import { withNames, type Describe, type PortableNames } from './portable'

export const COURSE_FORMAT = 'keen-porch course'
/** 1 said otherwise which email a condition asks about (./older.ts). */
export const COURSE_VERSION = 2

export interface PortableCourse {
  format: typeof COURSE_FORMAT
  version: typeof COURSE_VERSION
  name: string
  /** What it is for, in a sentence. */
  reason: string
  names: PortableNames
  draft: CourseDraft
}

/** `describe` says what goes along of a thing; undefined for what is gone. */
export function toPortable(name: string, reason: string, draft: CourseDraft, describe: Describe): PortableCourse {
  return { format: COURSE_FORMAT, version: COURSE_VERSION, name, reason, ...withNames(withoutSenders(draft), describe) }
}

/** Whose addresses emails are from belongs to the workspace, not to the course. */
function withoutSenders(draft: CourseDraft): CourseDraft {
  return { ...draft, steps: mapSteps(draft.steps, (step) => {
    if (step.kind !== 'email' || step.content.senderId === undefined) return step
    const { senderId: _, ...content } = step.content
    return { ...step, content }
  }) }
}

/** Without its list and the tags it starts with, for somebody who has their own; names that nothing else in it names stay behind. */
export function withoutItsDoor(file: PortableCourse): PortableCourse {
  const draft: CourseDraft = { ...file.draft, listId: null, wayInTagIds: [] }
  const named = new Set<string>()
  mapIds(draft, (kind, id) => {
    named.add(`${kind}/${id}`)
    return id
  })
  const kept = <Name>(kind: 'list' | 'tag', names: Record<string, Name>): Record<string, Name> =>
    Object.fromEntries(Object.entries(names).filter(([id]) => named.has(`${kind}/${id}`)))
  return { ...file, draft, names: { ...file.names, list: kept('list', file.names.list), tag: kept('tag', file.names.tag) } }
}

/**
 * Without what names something that is not there: actions, parts of conditions, ways in and out. `is` says what is missing, by the numbers
 * of the draft.
 */
export function without(draft: CourseDraft, is: IsMissing): CourseDraft {
  const names = (value: unknown) => namesMissing(value, is)
  const actions = (then: Action[]) => then.filter(action => !names(action))
  const trigger = (when: Trigger): Trigger =>
    !names(when) ? when : TRIGGERS[when.kind].any
      ? { ...when, thingId: null, ...when.which && { which: null } }
      : { kind: 'clicked', thingId: null }
  const reaction = (one: Reaction): Reaction[] => {
    const then = actions(one.then)
    return then.length > 0 || one.again || one.skipToId ? [{ ...one, then }] : []
  }
  const someOf = (who: Condition) => conditionWithout(who, is)
  const step = (one: DraftStep): DraftStep => {
    switch (one.kind) {
      case 'email': return {
        ...one, content: emailWithout(one.content, is), ...one.reactions && { reactions: one.reactions.flatMap(reaction) },
      }
      case 'do': return { ...one, then: actions(one.then) }
      case 'fork': return { ...one, ways: one.ways.map(way => ({
        ...way, who: someOf(way.who),
      })) }
      case 'hold': return { ...one, until: one.until.kind === 'event' ? { ...one.until, when: trigger(one.until.when) } : {
        ...one.until, who: someOf(one.until.who),
      } }
      default: return one
    }
  }
  const { entry, waysOut, onFinish, dates, ...rest } = draft
  return {
    ...rest, listId: rest.listId !== null && is('list', rest.listId) ? null : rest.listId,
    wayInTagIds: rest.wayInTagIds.filter(id => !is('tag', id)),
    ...rest.wayInListIds && { wayInListIds: rest.wayInListIds.filter(id => !is('list', id)) },
    ...entry && !names(entry) && { entry }, ...waysOut && { waysOut: waysOut.filter(({ when }) => !names(when)) },
    ...onFinish && { onFinish: actions(onFinish) }, ...dates && !names(dates) && { dates },
    steps: mapSteps(rest.steps, step),
  }
}
