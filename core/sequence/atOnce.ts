/** What a course does to someone at the very moment they join, before any time passes. */
import type { Action } from '#core/rules/rule'
import { isAlwaysLater } from '#core/time/when'
import { placesOf, waysOf, type Program } from './program'

export interface AtOnce {
  /** Whatever may be done, by any way. */
  then: Action[]
  /** Whether somebody may come to the end. */
  finishes: boolean
}

/** Holds and steps that are always later than the one before end it; a time counted from joining or from a date may lie in the past. */
export function atOnceOf(program: Program): AtOnce {
  const places = placesOf(program)
  const then: Action[] = []
  const seen = new Set<string>()
  let finishes = false
  const walk = (id: string | null): void => {
    if (id === null) {
      finishes = true
      return
    }
    if (seen.has(id) || !places.has(id)) return
    seen.add(id)
    const { step, nextId } = places.get(id)!
    if (step.kind === 'hold' || step.paused || isAlwaysLater(step.when)) return
    switch (step.kind) {
      case 'email':
        if (step.messageId === null) return
        then.push(...(step.reactions ?? []).filter(({ on }) => on === 'sent').flatMap(reaction => reaction.then))
        return walk(nextId)
      case 'do':
        then.push(...step.then)
        return walk(nextId)
      case 'fork':
        for (const { steps } of waysOf(step)) walk(steps[0]?.id ?? nextId)
        return
      case 'jump':
        return walk(places.has(step.toId) ? step.toId : nextId)
      case 'end':
        return walk(null)
    }
  }
  walk(program.steps[0]?.id ?? null)
  return { then: [...then, ...finishes ? program.onFinish ?? [] : []], finishes }
}
