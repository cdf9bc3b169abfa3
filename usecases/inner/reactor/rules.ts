/** Which house rules an event wakes, whether each may act, and what it then does. */
import type { Moment } from '#core/audience/condition'
import { holds } from '#core/audience/meaning'
import { asksNothing, type Rule } from '#core/rules/rule'
import { actsAt, goesOn, mayAct, wokenBy, type Permission } from '#core/rules/waking'
import { localOf, type Instant } from '#core/time/zone'
import { lazyFacts } from '#data/audience'
import type { Database } from '#data/connection'
import { appendEvent, findRawEvent, writingAs, type RawEvent } from '#data/events'
import { actedBefore, countCut, insertFiring, type Did } from '#data/rules'
import type { WorkspaceContext } from '../../context'
import { doAction } from '../actions/actions'
import { momentOf } from '../moment'
import { ruleEventOf } from '../ruleEvent'
import { rulesAtWork } from '../rulesAtWork'

type RulesContext = Pick<WorkspaceContext, 'db' | 'clock'>

/** What was found of a rule that an event woke. */
export type Verdict = Permission | 'does-not-fit'

/** Told of every rule that is woken, for showing what would happen. */
export type RuleObserver = (rule: Rule, event: RawEvent, verdict: Verdict, did: Did[]) => void

/** Where an event stands in the story of its beginning. */
interface Place { rootId: number, depth: number }

/** One transaction's worth of what comes of what. */
export class Story {
  readonly #db: Database
  readonly #now: Instant
  readonly #observer: RuleObserver
  readonly #places = new Map<number, Place>()
  /** Those of this transaction, which are most often the cause of the next. */
  readonly #seen = new Map<number, RawEvent>()
  #moment: Moment | null = null

  constructor({ db, clock }: RulesContext, observer: RuleObserver = () => {}) {
    this.#db = db
    this.#observer = observer
    this.#now = clock.now()
  }

  wake(event: RawEvent): void {
    this.#seen.set(event.id, event)
    const { index } = rulesAtWork(this.#db)
    if (!index.has(event.kind)) return
    const woken = wokenBy(index, ruleEventOf(this.#db, event))
    for (const rule of woken) this.letAct(rule, event)
  }

  /** Asks for whom a rule is, and whether it may; then does what it says. */
  letAct(rule: Rule, event: RawEvent): Verdict {
    const at = actsAt(event, this.#now)
    const { rootId, depth } = this.placeOf(event)
    const verdict = this.#judge(rule, event, at, { rootId, depth })
    const did = verdict === 'acts' ? this.#act(rule, event, at, rootId) : []
    this.#observer(rule, event, verdict, did)
    return verdict
  }

  #judge(rule: Rule, { id, personId }: RawEvent, at: Instant, { rootId, depth }: Place): Verdict {
    const db = this.#db
    if (!asksNothing(rule.who)) {
      const facts = lazyFacts(db, personId)
      if (!facts || !holds(rule.who, facts, this.#momentAt(at))) return 'does-not-fit'
    }
    const permission = mayAct(rule, { ...actedBefore(db, rule.id, personId, rootId), depth }, at)
    // Written down once: what is cut off again and again by one beginning says nothing new.
    if (permission === 'too-deep' || (permission === 'circle' && countCut(db, rule.id, personId, rootId))) {
      appendEvent(db, 'rules-cut', at, { personId, causeId: id, ruleId: rule.id, detail: permission })
    }
    return permission
  }

  #act(rule: Rule, event: RawEvent, at: Instant, rootId: number): Did[] {
    const db = this.#db
    const { personId } = event
    const did = writingAs(db, { ruleId: rule.id }, () => rule.then.map(action => ({
      kind: action.kind,
      outcome: doAction(db, personId, action, { at, causeId: event.id, ruleId: rule.id }),
    })))
    insertFiring(db, { ruleId: rule.id, personId, eventId: event.id, rootId, at, did })
    return did
  }

  placeOf(event: Pick<RawEvent, 'id' | 'kind' | 'at' | 'detail' | 'causeId' | 'ruleId'>): Place {
    const known = this.#places.get(event.id)
    if (known) return known
    const cause = event.causeId === null ? undefined : this.#seen.get(event.causeId) ?? findRawEvent(this.#db, event.causeId)
    let place: Place = { rootId: event.id, depth: 0 }
    if (cause && goesOn(event, cause)) {
      const before = this.placeOf(cause)
      place = { rootId: before.rootId, depth: before.depth + (event.ruleId !== null && event.ruleId !== cause.ruleId ? 1 : 0) }
    }
    this.#places.set(event.id, place)
    return place
  }

  #momentAt(now: Instant): Moment {
    const moment = this.#moment ??= momentOf(this.#db, now)
    return moment.now === now ? moment : this.#moment = { ...moment, now, today: localOf(now, moment.zone).date }
  }
}
