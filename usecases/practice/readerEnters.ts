/** An invented reader comes into a course as real people do: by the page or the offer that leads there, with all that it gives and asks. */
import type { Typed } from '#core/page/form'
import type { PageContent } from '#core/page/content'
import type { Field } from '#core/people/field'
import { starts } from '#core/sequence/entries'
import type { CourseDraft } from '#core/sequence/draft'
import type { RehearsedReader } from '#core/sequence/rehearsal'
import type { Instant } from '#core/time/zone'
import { waitingOfPerson } from '#data/confirmations'
import { appendEvent } from '#data/events'
import { allFields, setFieldValue } from '#data/fields'
import { insertHolding } from '#data/marks'
import { findPage } from '#data/pages'
import { insertPerson } from '#data/people'
import { confirm } from '../arrive/confirm'
import { optIn } from '../arrive/optIn'
import { publishPage } from '../arrive/pages'
import type { EngineContext } from '../context'
import { enrol } from '../inner/journeys/enrolments'
import { giveTag, joinList } from '../inner/facts/marks'
import { transact } from '../inner/reactor/transaction'
import { replanEntries } from '../inner/journeys/replanning'
import { InputProblem } from '../problem'
import { entriesAndExitsOf } from '../inner/entriesAndExits'
import { inventReader } from './inventReader'

export const REHEARSAL_ADDRESS = 'rehearsal@example.com'

type By = NonNullable<RehearsedReader['by']>

/** Returns who they are. `buy` buys an offer as they would. */
export async function enters(stage: EngineContext, { courseId, draft, reader, at, buy }: {
  courseId: number, draft: CourseDraft, reader: RehearsedReader, at: Instant, buy(offerId: number): Promise<unknown>,
}): Promise<number> {
  const { db } = stage
  const by = draft.dates ? null : await wayOf(stage, courseId, draft, reader.by)
  const personId = transact(stage, () => {
    const id = insertPerson(db, {
      address: REHEARSAL_ADDRESS, addressKey: REHEARSAL_ADDRESS, firstName: reader.name, status: by === null ? 'active' : 'pending',
      zone: reader.zone, country: null, source: 'rehearsal', createdAt: at, consentAt: by === null ? at : null,
    })
    const eventId = appendEvent(db, 'consent-recorded', at, { personId: id })
    for (const tagId of reader.tagIds) insertHolding(db, { tagId, personId: id, sinceAt: at, expiresAt: null, eventId })
    for (const [fieldId, date] of Object.entries(reader.dates)) setFieldValue(db, Number(fieldId), id, date)
    return id
  })
  inventReader(stage, personId, 100)
  if (by?.kind === 'page') press(stage, by.id, draft, reader)
  else if (by?.kind === 'offer') await buy(by.id)
  else transact(stage, () => comeInByHand(stage, personId, courseId, draft, at))
  return personId
}

/** Where no page and no offer leads: somebody who is on the list already gets what starts the course. */
function comeInByHand({ db }: EngineContext, personId: number, courseId: number, draft: CourseDraft, at: Instant): void {
  const cause = { at, causeId: appendEvent(db, 'opted-in', at, { personId }), ownAct: true }
  if (draft.listId !== null) joinList(db, personId, draft.listId, cause)
  if (draft.dates) replanEntries(db, personId, at, cause.causeId)
  else if (draft.wayInTagIds[0] !== undefined) giveTag(db, personId, draft.wayInTagIds[0], cause)
  else if (draft.wayInListIds?.[0] !== undefined && draft.wayInListIds[0] !== draft.listId) joinList(
    db, personId, draft.wayInListIds[0], cause
  )
  else if (!draft.wayInListIds?.length) enrol(db, { courseId, personId, ...cause })
}

/** The one that was chosen, else the first that leads there; a page that is still a draft is published on the copy, where it can be. */
async function wayOf(stage: EngineContext, courseId: number, draft: CourseDraft, chosen: RehearsedReader['by']): Promise<By | null> {
  if (chosen === null) return null
  const ways = entriesAndExitsOf(stage, courseId, draft).in.flatMap((one): By[] => one.kind === 'page' || one.kind === 'offer' ? [{
    kind: one.kind, id: one.id,
  }] : [])
  const wanted = chosen === undefined ? ways.filter(({ kind }) => kind === 'page') : ways.filter(({
    kind, id,
  }) => kind === chosen.kind && id === chosen.id)
  for (const way of wanted) if (way.kind === 'offer' || await isShown(stage, way.id)) return way
  return null
}

async function isShown(stage: EngineContext, pageId: number): Promise<boolean> {
  if (findPage(stage.db, pageId)!.published) return true
  try {
    await publishPage(stage, pageId)
    return true
  }
  catch (error) {
    if (error instanceof InputProblem) return false
    throw error
  }
}

function press(stage: EngineContext, pageId: number, draft: CourseDraft, reader: RehearsedReader): void {
  const { slug, published } = findPage(stage.db, pageId)!
  const fields = new Map(allFields(stage.db).map(field => [field.id, field]))
  const { personId } = optIn(stage, {
    slug, email: REHEARSAL_ADDRESS, meant: REHEARSAL_ADDRESS, firstName: reader.name, zone: reader.zone ?? '', ip: null,
    answers: answersFor(published!, draft, fields),
  })
  // They answer the email that asks at once: how long that takes is theirs to say.
  for (const { id } of waitingOfPerson(stage.db, personId)) confirm(stage, id)
}

/** What leads into the course where an answer does; else as little as the form takes. */
function answersFor({ form }: PageContent, draft: CourseDraft, fields: ReadonlyMap<number, Field>): Typed {
  const leads = (given: { tagIds: readonly number[], listIds?: readonly number[] }) => starts(0, draft, {
    tagIds: given.tagIds, listIds: given.listIds ?? [], courseId: null,
  })
  const answers: Typed = {}
  for (const ask of form.asks) {
    if (ask.kind === 'choice') {
      const option = ask.options.find(leads) ?? (ask.required ? ask.options[0] : undefined)
      if (option) answers[ask.id] = [option.id]
    }
    else if (ask.required) answers[ask.id] = [sampleOf(fields.get(ask.fieldId))]
  }
  for (const box of form.boxes) if (box.required || leads(box)) answers[box.id] = ['yes']
  return answers
}

/** Something that the field takes. */
function sampleOf(field: Field | undefined): string {
  switch (field?.kind) {
    case 'number': return '1'
    case 'yes-no': return 'yes'
    case 'date': return '2000-01-01'
    case 'choice': return field.choices[0] ?? ''
    case 'country': return 'PT'
    case 'zone': return 'UTC'
    default: return 'Something'
  }
}
