/** Making offers. Saving is private; publishing is an explicit step, and what is bought from then on is what was published. */
import { picturesOf } from '#core/page/content'
import { slugOf } from '#core/message/headers'
import { isCurrency, MOST_AMOUNT } from '#core/money/money'
import { emailsOfOffer, marksOfOffer, missingForSelling, newOffer, type OfferContent } from '#core/offers/offer'
import { MOST_PARTS } from '#core/offers/price'
import { openingMail } from '#core/offers/waiting'
import { fitsField } from '#core/people/field'
import type { OfferInput } from '#core/views/offers'
import { deleteArchived } from '#data/archive'
import { kindsThat } from '#core/sending/kinds'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { appendEvent } from '#data/events'
import { findField } from '#data/fields'
import { findFile } from '#data/files'
import { moveLinks } from '#data/links'
import { findList, findTag } from '#data/marks'
import {
  endOffer, findOffer, findOfferBySlug, findOfferVersionByNumber, insertOffer, insertOfferVersion, showOffer, unpublishOffer, updateOffer,
  type OfferRow,
} from '#data/offers'
import { countOngoing, placesTaken } from '#data/purchases'
import { picturesByIds } from '#data/pictures'
import { endWaitsOfOffer, checkOpeningAt } from '#data/waits'
import { workspaceOf } from '#data/workspace'
import { forgetEarlier } from '#data/earlierEmails'
import type { WorkspaceContext } from '../context'
import { keepAllBefore } from '../know/earlierEmails'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import { CHANGED_SINCE, mustBe, type ShownChange } from '../inner/revision'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { openingOf, waitRequestOf } from '../inner/facts/waits'
import { problemInEmail } from '../know/writtenEmail'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

/** `from`: an offer of one's own whose draft the new one begins with. */
export function createOffer(context: WorkspaceContext, name: string, from: number | null = null): number {
  const { db } = context
  const title = tidy(name)
  if (title === '') throw new InputProblem([{ field: 'name', problem: 'Enter a name. Buyers see it on their receipt.' }])
  return transact(context, () => {
    const draft = from === null ? newOffer(title, workspaceOf(db).currency) : offerOf(db, from).draft
    return insertOffer(db, { name: title, slug: freeSlug(db, slugOf(title)), draft, at: context.clock.now() })
  })
}

function freeSlug(db: Database, wanted: string): string {
  let slug = wanted
  for (let n = 2; findOfferBySlug(db, slug); n++) slug = `${wanted}-${n}`
  return slug
}

/** `seen`: the revision that was edited; see {@link mustBe}. */
export function saveOffer(context: WorkspaceContext, id: number, input: OfferInput, seen: string | null = null): void {
  const { db } = context
  transact(context, () => {
    mustBe(context, seen, offerOf(db, id), { name: tidy(input.name), slug: input.slug, draft: input.draft })
    const problems: FieldProblem[] = []
    const want = (is: boolean, field: string, problem: string) => {
      if (!is) problems.push({ field, problem })
    }
    want(tidy(input.name) !== '', 'name', 'Enter a name. Buyers see it on their receipt.')
    want(
      /^[a-z0-9]+(-[a-z0-9]+)*$/.test(input.slug), 'slug',
      `Small letters, digits and single hyphens, like ${slugOf(input.slug || input.name)}.`,
    )
    const other = findOfferBySlug(db, input.slug)
    want(!other || other.id === id, 'slug', `The offer “${other?.name}” has this address already.`)
    problems.push(...problemsOf(db, input.draft))
    if (problems.length > 0) throw new InputProblem(problems)
    const { slug, draft } = offerOf(db, id)
    keepAllBefore(context, id, emailsOfOffer(draft), emailsOfOffer(input.draft))
    const at = context.clock.now()
    // The address counts at once, and emails that are out there lead to it.
    if (slug !== input.slug) moveLinks(db, `${context.baseUrl}/s/${slug}`, `${context.baseUrl}/s/${input.slug}`, at)
    updateOffer(db, id, { name: tidy(input.name), slug: input.slug, draft: input.draft, at })
  })
}

function problemsOf(db: Database, draft: OfferContent): FieldProblem[] {
  const problems: FieldProblem[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) problems.push({ field, problem })
  }
  const { price, gives } = draft
  const { listIds, tagIds } = marksOfOffer(draft)
  want(isCurrency(price.currency), 'price.currency', 'Choose a currency like EUR.')
  want(
    Number.isSafeInteger(price.amount) && price.amount >= 0 && price.amount <= MOST_AMOUNT, 'price.amount',
    'A price is a whole number of the smallest unit, and not below zero.',
  )
  want(
    price.paying === 'parts' ? price.parts >= 1 && price.parts <= MOST_PARTS : price.parts === 1, 'price.parts',
    `From 2 to ${MOST_PARTS} payments.`,
  )
  want(listIds.every(listId => findList(db, listId)), 'listIds', 'One of these lists no longer exists.')
  want(tagIds.every(tagId => findTag(db, tagId)), 'tagIds', 'One of these tags no longer exists.')
  want(
    [gives.courseId, ...gives.endsCourseIds].every(courseId => courseId === null || findCourse(db, courseId)), 'courseId',
    'One of these courses no longer exists.',
  )
  want(
    gives.courseId === null || !gives.endsCourseIds.includes(gives.courseId), 'endsCourseIds',
    'It would remove people from the course it starts.',
  )
  want(gives.fields.every(({ fieldId, value }) => {
    const field = findField(db, fieldId)
    return field && fitsField(field, value)
  }), 'fields', 'A field set by a purchase no longer exists, or its value does not fit.')
  want(
    gives.renewalFieldId === null || findField(db, gives.renewalFieldId)?.kind === 'date', 'renewalFieldId',
    'Choose a date field.',
  )
  want(gives.fileId === null || findFile(db, gives.fileId) !== undefined, 'file', 'This file no longer exists.')
  want(
    picturesByIds(db, picturesOf(draft)).length === new Set(picturesOf(draft)).size, 'pictures',
    'One of the pictures no longer exists.',
  )
  const mails = { receipt: draft.receipt, waiting: draft.waiting?.confirm, opening: draft.waiting?.opening }
  for (const [field, mail] of Object.entries(mails)) {
    const problem = mail && problemInEmail(db, mail)
    if (problem) problems.push({ field, problem })
  }
  return problems
}

/** What keeps the draft from being sold: in the offer itself, in who its mail is from, and in where buyers pay. */
export function missingOfOffer(context: WorkspaceContext, draft: OfferContent): FieldProblem[] {
  const { senderAddress, postalAddress } = workspaceOf(context.db)
  return [
    ...missingForSelling(draft),
    ...senderAddress === '' || postalAddress.trim() === '' ? [
      { field: 'sender', problem: 'Fill in the sender and the postal address in Settings. The receipt must show them.' },
    ] : [],
    ...context.checkout === null ? [{ field: 'checkout', problem: 'Set the payment service in Settings. Until then nobody can pay.' }] : [],
  ]
}

/**
 * `seen`: the revision that is to be shown. Shows the draft to the public as a new version, its receipt made. If the draft is changed
 * meanwhile, it begins again with the newer one.
 */
export async function publishOffer(context: WorkspaceContext, id: number, seen: string | null = null): Promise<{ number: number }> {
  const { db } = context
  for (;;) {
    const offer = offerOf(db, id)
    mustBe(context, seen, offer)
    const { draft } = offer
    const missing = [...missingOfOffer(context, draft), ...problemsOf(db, draft)]
    if (missing.length > 0) throw new InputProblem(missing)
    const { receipt, asking, opening } = wordingsOf(context, offer)
    const made = await makeWordings(context, [receipt, asking, opening].filter(wording => wording !== null))
    const published = transact(context, () => {
      if (JSON.stringify(offerOf(db, id).draft) !== JSON.stringify(draft)) return null
      const at = context.clock.now()
      appendEvent(db, 'offer-published', at, { offerId: id })
      deleteArchived(db, { kind: 'offer', id })
      const keep = (wording: Wording | null) => wording && keepWording(context, wording, made, at)
      const version = insertOfferVersion(db, id, draft, {
        receiptMessageId: keepWording(context, receipt, made, at), openingMessageId: keep(opening), waitConfirmMessageId: keep(asking),
      }, at)
      // Who waits is told at once where it can be bought from now on.
      checkOpeningAt(db, id, at)
      return version
    })
    if (published) return published
  }
}

/** The emails that an offer sends by itself, as they are worded now. */
function wordingsOf(
  { baseUrl }: WorkspaceContext, { id, slug, draft: { receipt, waiting } }: OfferRow,
): { receipt: Wording, asking: Wording | null, opening: Wording | null } {
  return {
    receipt: { of: { kind: 'receipt', ownerId: id, itemId: 'receipt' }, content: receipt },
    asking: waiting && { of: waitRequestOf(id), content: waiting.confirm },
    opening: waiting && { of: openingOf(id), content: openingMail(waiting, `${baseUrl}/s/${slug}`) },
  }
}

export function takeOfferDown(context: WorkspaceContext, id: number): void {
  transact(context, () => {
    offerOf(context.db, id)
    unpublishOffer(context.db, id)
  })
}

/**
 * Undoes publishing or taking down: it is sold as in the version numbered `to` again, or not at all where that is null. Throws a
 * {@link NotNow} where it is no longer sold as in `from`, or where something that version gives no longer exists.
 */
export function showOfferVersion(context: WorkspaceContext, id: number, { from, to }: ShownChange): void {
  const { db } = context
  transact(context, () => {
    if (offerOf(db, id).versionNumber !== from) throw new NotNow(CHANGED_SINCE)
    if (to === null) return unpublishOffer(db, id)
    const version = findOfferVersionByNumber(db, id, to)
    if (!version) throw new NotThere('This version no longer exists.')
    const [problem] = [...missingOfOffer(context, version.content), ...problemsOf(db, version.content)]
    if (problem) throw new NotNow(`${problem.problem} So nothing was undone.`)
    const at = context.clock.now()
    appendEvent(db, 'offer-published', at, { offerId: id })
    showOffer(db, id, version.versionId)
    checkOpeningAt(db, id, at)
  })
}

/** Who bought it has it as before. Nobody may be paying for it, now or still to come. */
export function removeOffer(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    offerOf(db, id)
    refuseIfNeeded(db, { kind: 'offer', id })
    const at = context.clock.now()
    const { held } = placesTaken(db, id, at)
    const payers = held === 1 ? 'Someone is' : `${held} people are`
    if (held > 0) throw new NotNow(`${payers} paying for it at this moment. Take it down, and delete it in ten minutes.`)
    const ongoing = countOngoing(db, id)
    const people = ongoing === 1 ? '1 person pays' : `${ongoing} people pay`
    if (ongoing > 0) throw new NotNow(
      `${people} for it regularly. Cancel that first, under Sales. If you only take it down, payments continue.`
    )
    endWaitsOfOffer(db, id, at)
    endOffer(db, id, at)
    for (const kind of kindsThat(({ owner }) => owner === 'offer')) forgetEarlier(db, { kind, ownerId: id })
  })
}


export function offerOf(db: Database, id: number): OfferRow {
  const offer = findOffer(db, id)
  if (!offer) throw new NotThere('This offer no longer exists.')
  return offer
}
