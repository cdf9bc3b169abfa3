/** House rules: listed by moment, one opened, and the chain of one time it acted. */
import { sayCondition } from '#core/audience/say'
import { toCount } from '#core/audience/sql'
import { sayEvent } from '#core/events'
import { didSomething } from '#core/rules/outcome'
import { momentOfRule, thingsIn, type Rule } from '#core/rules/rule'
import { placeOf, sayRuleParts, type RuleNames } from '#core/rules/say'
import { standingAfter, whoFits } from '#core/rules/fits'
import { isShortForm } from '#core/rules/shortForms'
import { DAY } from '#core/time/zone'
import type { ChainView, RuleLine, RuleParts, RuleView } from '#core/views/rules'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { eventsOfPerson, findRawEvent, toldEvent } from '#data/events'
import { hookNames } from '#data/hooks'
import { countWhere } from '#data/people'
import { allRules, findFiring, findRule, firingsOfRoot, firingsOfRule, firingsSince, rulesEver } from '#data/rules'
import { scoreRule } from '#data/scores'
import { helpers } from '#data/todos'
import type { WorkspaceContext } from '../context'
import { linesOf, sayAllDid } from '../inner/chains'
import { momentOf } from '../inner/moment'
import { nameOf, ruleNamesOf } from '../inner/names'
import { Story } from '../inner/reactor/rules'
import { fittingOf } from '../inner/fitting'
import { missingOf } from '../inner/rulesAtWork'
import { NotThere } from '../problem'
import { conditionParts } from './conditionParts'

const STRETCH = 30 * DAY
/** So many of the last times are shown. */
const LAST = 200

export function ruleLines(context: WorkspaceContext): RuleLine[] {
  const { db } = context
  return readTogether(db, () => {
    const counts = firingsSince(db, context.clock.now() - STRETCH)
    const names = ruleNamesOf(db)
    return allRules(db).map(rule => lineOf(db, rule, names, counts))
  })
}

function lineOf(db: Database, rule: Rule, names: RuleNames, counts: ReturnType<typeof firingsSince>): RuleLine {
  const { id, on, note } = rule
  const count = counts.get(id)
  return {
    id, on, note, moment: momentOfRule(rule), said: sayRuleParts(rule, names), missing: missingOf(db, rule).map(({ kind }) => kind),
    shortForm: isShortForm(rule),
    times30: count?.times ?? 0, people30: count?.people ?? 0, lastAt: count?.lastAt ?? null, about: thingsIn(rule), place: placeOf(rule),
  }
}

export function ruleView(context: WorkspaceContext, id: number): RuleView {
  const { db } = context
  return readTogether(db, () => {
    const rule = findRule(db, id)
    if (!rule) throw new NotThere('This house rule no longer exists.')
    const now = context.clock.now()
    const names = ruleNamesOf(db)
    const fits = whoFits(rule, fittingOf(db))
    return {
      line: lineOf(db, rule, names, firingsSince(db, now - STRETCH)),
      rule,
      firings: firingsOfRule(db, id, LAST).map(({ id: firingId, personId, eventId, at, did, cut }) => ({
        id: firingId, at, person: nameOf(db, personId), woke: sayEvent(toldEvent(db, eventId)!), did: sayAllDid(rule, did, names),
        changed: did.some(({ outcome }) => didSomething(outcome)), cut,
      })),
      fits: {
        people: countWhere(db, { search: '', where: toCount(fits, momentOf(db, now)) }), says: sayCondition(fits, names),
        standing: standingAfter(rule.when, fittingOf(db)) !== null,
      },
    }
  })
}

/** Everything that came of what a firing began with, from there down. */
export function chainOf(context: WorkspaceContext, firingId: number): ChainView {
  const { db } = context
  return readTogether(db, () => {
    const firing = findFiring(db, firingId)
    if (!firing) throw new NotThere('This is no longer known.')
    const { personId, rootId } = firing
    const story = new Story(context)
    const events = eventsOfPerson(db, personId).filter(({ id }) => id >= rootId).reverse()
      .filter(({ id }) => story.placeOf(findRawEvent(db, id)!).rootId === rootId)
    const firings = firingsOfRoot(db, personId, rootId)
    const rules = rulesEver(db, firings.map(({ ruleId }) => ruleId))
    return {
      person: nameOf(db, personId),
      lines: linesOf(
        [toldEvent(db, rootId)!], events,
        firings.map(({ ruleId, eventId, did }) => ({ rule: rules.get(ruleId)!, eventId, verdict: 'acts' as const, did })), ruleNamesOf(db),
      ),
    }
  })
}

export function ruleParts(context: WorkspaceContext): RuleParts {
  const { db } = context
  return readTogether(db, () => {
    const hooks = hookNames(db)
    return {
      ...conditionParts(context), hooksIn: hooks.in, hooksOut: hooks.out, helpers: helpers(db), thresholds: scoreRule(db).thresholds,
    }
  })
}
