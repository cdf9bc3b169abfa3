/** What house rules and points make of the events of a transaction, at its end and within it. */
import type { Moment } from '#core/audience/condition'
import { holds, type PersonFacts } from '#core/audience/meaning'
import type { FieldKind } from '#core/people/field'
import { partsChangedBy } from '#core/rules/outcome'
import { asksNothing, thingsIn, type Rule, type RuleInput, type Thing } from '#core/rules/rule'
import { actsAt, goesOn, indexRules, mayAct, wokenBy, type RuleEvent, type Permission, type RuleIndex } from '#core/rules/waking'
import { localOf, type Instant } from '#core/time/zone'
import { forget, lazyFacts } from '#data/audience'
import { memoize, type Database } from '#data/connection'
import { appendEvent, eventsAfter, findRawEvent, lastEventId, personalIn, takeSuppressed, writingAs, type RawEvent } from '#data/events'
import { findField } from '#data/fields'
import { actedBefore, allRules, countCut, insertFiring, rulesChange, type Did } from '#data/rules'
import { isThere } from '#data/things'
import { findTodo } from '#data/todos'
import type { WorkspaceContext } from '../context'
import { doAction } from './actions'
import { checkHolds, checkExits } from './enrolments'
import { momentOf } from './moment'
import { scoreEvent } from './points'

/** So many events are read at a time. */
const BATCH = 500

type RulesContext = Pick<WorkspaceContext, 'db' | 'clock'>

/** What was found of a rule that an event woke. */
export type Verdict = Permission | 'does-not-fit'

/** Told of every rule that is woken, for showing what would happen. */
export type RuleObserver = (rule: Rule, event: RawEvent, verdict: Verdict, did: Did[]) => void

/** Lets the events of a transaction bring their points and wake their rules, each once and in their order; what these write is looked at in its turn. */
export class Reactions {
  readonly #context: RulesContext
  readonly #observer: RuleObserver
  #doneId: number
  #story: Story | null = null
  #under = false

  constructor(context: RulesContext, afterId: number, observer: RuleObserver = () => {}) {
    this.#context = context
    this.#doneId = afterId
    this.#observer = observer
  }

  /** To all that was written so far. Does nothing while it is at it already. */
  soFar(): void {
    const { db } = this.#context
    if (this.#under) return
    const suppressed = takeSuppressed(db)
    if (lastEventId(db) === this.#doneId) return
    this.#under = true
    const story = this.#story ??= new Story(this.#context, this.#observer)
    for (let events = eventsAfter(db, this.#doneId, BATCH); events.length > 0; events = eventsAfter(db, this.#doneId, BATCH)) {
      for (const event of events) {
        this.#doneId = event.id
        if (suppressed.has(event.id)) continue
        scoreEvent(db, event)
        story.wake(event)
        checkExits(db, event)
        checkHolds(db, event.personId, event)
      }
    }
    this.#under = false
  }
}

/** Rules that are on and miss nothing they name, kept until one of them is changed, or a change of them is taken back. */
export function rulesAtWork(db: Database): { rules: Rule[], index: RuleIndex, thresholds: number[] } {
  return memoize(db, 'rules at work', rulesChange(db), () => {
    const rules = allRules(db).filter(rule => rule.on && missingOf(db, rule).length === 0)
    return { rules, index: indexRules(rules), thresholds: rules.flatMap(({ when }) => when.kind === 'reached-score' && when.points ? [when.points] : []) }
  })
}

/** What a rule names and is not there any more. */
export function missingOf(db: Database, rule: RuleInput): Thing[] {
  return thingsIn(rule).filter(({ kind, id }) => !isThere(db, kind, id))
}

/** Where an event stands in the story of its beginning. */
interface Place { rootId: number, depth: number }

/** One transaction's worth of what comes of what. */
export class Story {
  readonly #db: Database
  readonly #now: Instant
  readonly #observer: RuleObserver
  readonly #places = new Map<number, Place>()
  #moment: Moment | null = null
  #facts: { personId: number, of: PersonFacts | undefined } | null = null

  constructor({ db, clock }: RulesContext, observer: RuleObserver = () => {}) {
    this.#db = db
    this.#observer = observer
    this.#now = clock.now()
  }

  wake(event: RawEvent): void {
    const { index } = rulesAtWork(this.#db)
    if (!index.has(event.kind)) return
    const woken = wokenBy(index, ruleEventOf(this.#db, event))
    // Something has happened to them since their facts were last read.
    if (woken.length > 0) this.#facts = null
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
      const facts = this.#factsOf(personId)
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
    const changed = partsChangedBy(did)
    if (changed && this.#facts?.of) forget(this.#facts.of, changed)
    else this.#facts = null
    return did
  }

  placeOf(event: Pick<RawEvent, 'id' | 'kind' | 'at' | 'detail' | 'causeId' | 'ruleId'>): Place {
    const known = this.#places.get(event.id)
    if (known) return known
    const cause = event.causeId === null ? undefined : findRawEvent(this.#db, event.causeId)
    let place: Place = { rootId: event.id, depth: 0 }
    if (cause && goesOn(event, cause)) {
      const before = this.placeOf(cause)
      place = { rootId: before.rootId, depth: before.depth + (event.ruleId !== null && event.ruleId !== cause.ruleId ? 1 : 0) }
    }
    this.#places.set(event.id, place)
    return place
  }

  #factsOf(personId: number): PersonFacts | undefined {
    if (this.#facts?.personId !== personId) this.#facts = { personId, of: lazyFacts(this.#db, personId) }
    return this.#facts.of
  }

  #momentAt(now: Instant): Moment {
    const moment = this.#moment ??= momentOf(this.#db, now)
    return moment.now === now ? moment : this.#moment = { ...moment, now, today: localOf(now, moment.zone).date }
  }
}

/** What rules can ask of an event. */
export function ruleEventOf(db: Database, event: RawEvent): RuleEvent {
  const { kind, pageId, listId, tagId, tagFromId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail } = event
  const said = kind === 'field-changed' ? personalIn(db, event.id) : {}
  const field = kind === 'field-changed' && fieldId !== null ? findField(db, fieldId)?.kind : undefined
  return {
    kind, pageId, listId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail,
    tagIds: [tagId, tagFromId].filter(id => id !== null),
    from: valueOf(field, said.from), to: valueOf(field, said.to),
    text: event.todoId === null ? null : findTodo(db, event.todoId)?.text ?? null,
  }
}

/** Events keep values as texts. */
const valueOf = (kind: FieldKind | undefined, text: string | undefined) => text === undefined ? null : kind === 'number' || kind === 'yes-no' ? Number(text) : text
