/** What else is to be thought of where another thing is put in the place of one, or none. */
import { replacedIn, type Replacement } from '#core/mentions'
import { TRIGGERS, type Action, type Rule } from '#core/rules/rule'
import { mapSteps, type CourseDraft } from '#core/sequence/draft'

/** A reaction from which nothing follows any more goes with what it did. */
export function inCourse(draft: CourseDraft, what: Replacement): CourseDraft {
  const now = replacedIn(draft, what)
  if (what.to !== null) return now
  return { ...now, steps: mapSteps(now.steps, step => step.kind === 'email' && step.reactions
    ? { ...step, reactions: step.reactions.filter(({ then, again, skipToId }) => then.length > 0 || again || skipToId) }
    : step) }
}

/** The rules as they are then; one that would only say the same twice, or would do to a mark what woke it, is left out. */
export function inRules(rules: Rule[], what: Replacement & { to: number }): Rule[] {
  const seen = new Set<string>()
  return rules.flatMap((rule) => {
    const replaced = replacedIn(rule, what)
    const now = { ...replaced, then: replaced.then.filter(action => !isItself(replaced.when, action)) }
    const { id: _, ...said } = now
    if (now.then.length === 0 || seen.has(JSON.stringify(said))) return []
    seen.add(JSON.stringify(said))
    return [now]
  })
}

/** Giving the very tag whose getting wakes the rule, and the like. */
function isItself({ kind, thingId }: Rule['when'], action: Action): boolean {
  const { thing } = TRIGGERS[kind]
  if (kind === 'got-tag' || kind === 'lost-tag') return 'tagId' in action && action.tagId === thingId
  return thing === 'list' && (action.kind === 'join-list' || action.kind === 'leave-list') && action.listId === thingId
}
