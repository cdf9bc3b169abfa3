/** The whole workspace as one JSON text, written piece by piece: open, and readable without us. */
import { sayCondition } from '#core/audience/say'
import { sayIso } from '#core/time/say'
import { writeMoney } from '#core/money/money'
import { allCosts } from '#data/costs'
import { allEmailDrafts } from '#data/emailDrafts'
import { allOwnTemplates, allParts } from '#data/emailParts'
import { allLinks } from '#data/links'
import { allRules } from '#data/rules'
import { allSenders, defaultSenderId, marksOfSender } from '#data/senders'
import { allCourses } from '#data/courses'
import { allFiles, contentOfFile } from '#data/files'
import { contentOfPicture, pictureIds, picturesByIds } from '#data/pictures'
import { allFields } from '#data/fields'
import { peopleIds } from '#data/people'
import { allOffers, couponsOf } from '#data/offers'
import { sellingOf } from '#data/selling'
import { allPages } from '#data/pages'
import { allSegments } from '#data/segments'
import { namedSources } from '#data/sources'
import { consentRule, emailLook, sendingHours, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { namesOf } from '../inner/names'
import { exportPerson } from './exportPerson'
import { listLines, tagLines } from './listsAndTags'

/** People in a piece: few enough that nobody waits for it. */
const CHUNK = 10

const base64 = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64')

/**
 * Instants are ISO 8601 in UTC; numbers name things within the file; what pictures and files hold is base64 (RFC 4648). Passwords of mail
 * servers stay out of it.
 */
export function* exportWorkspace(context: WorkspaceContext): Generator<string> {
  const { db } = context
  const { name, zone, mode, currency, senderName, senderAddress, postalAddress } = workspaceOf(db)
  const { seller, taxLine, clickDays } = sellingOf(db)
  const names = namesOf(db)
  const definitions = {
    format: 'keen-porch-workspace',
    version: 1,
    madeAt: sayIso(context.clock.now()),
    workspace: {
      name, timeZone: zone, mode, currency, senderName, senderAddress, postalAddress, consent: consentRule(db),
      sendingHours: sendingHours(db),
    },
    lists: listLines(context).map(({ id, name, publicName, description, takesEverybody }) => ({
      id, name, publicName, description, takesEverybody,
    })),
    tags: tagLines(context).map(({ id, name, note, group, colour, expiry, follows }) => ({
      id, name, note, group, colour, expiry, follows,
    })),
    fields: allFields(db),
    segments: allSegments(db).map(({ id, name, note, condition }) => ({ id, name, note, condition, says: sayCondition(condition, names) })),
    pages: allPages(db).map(({ id, name, slug, draft, published }) => ({ id, name, slug, draft, published })),
    offers: allOffers(db).map(({ id, name, slug, draft, published }) => ({
      id, name, slug, draft, published, coupons: couponsOf(db, id).map(({ offerId: _, ...coupon }) => coupon),
    })),
    selling: { seller, taxLine, clickDays },
    sources: namedSources(db),
    sourceCosts: allCosts(db).map(({ kind, word, month, ...money }) => ({
      source: { kind, word }, month, amount: writeMoney(money), currency: money.currency,
    })),
    courses: allCourses(db).map(({ id, name, status, draft, published, startedAt }) => ({
      id, name, status, startedAt: startedAt === null ? null : sayIso(startedAt), draft, published,
    })),
  }
  const emails = {
    senders: allSenders(db).map(({ id, name: from, address, replyTo }) => ({
      id, name: from, address, replyTo, isDefault: id === defaultSenderId(db), listIds: marksOfSender(db, 'lists', id),
      tagIds: marksOfSender(db, 'tags', id),
    })),
    emailLook: emailLook(db), emailParts: allParts(db).map(({ changedAt: _, ...part }) => part), emailTemplates: allOwnTemplates(db),
    emailDrafts: allEmailDrafts(db).map(({ id, content }) => ({ id, content })),
    houseRules: allRules(db),
    links: allLinks(db).map(({ id, name: link, url, note, does, asks }) => ({ id, name: link, url, note, does, asks })),
  }
  yield JSON.stringify({ ...definitions, ...emails }, null, 1).slice(0, -2)
  // One at a time: each can be many megabytes.
  yield ',\n "pictures": [\n'
  for (const [k, id] of pictureIds(db).entries()) {
    const { name, width, height, widths } = picturesByIds(db, [id])[0]!
    yield `${k > 0 ? ',\n' : ''}${JSON.stringify({ id, name, width, height, type: 'image/webp', base64: base64(contentOfPicture(db, id, widths.at(-1)!)!) })}`
  }
  yield '\n ],\n "files": [\n'
  for (const [k, file] of allFiles(db).entries()) {
    yield `${k > 0 ? ',\n' : ''}${JSON.stringify({ ...file, base64: base64(contentOfFile(db, file.id)) })}`
  }
  yield '\n ],\n "people": [\n'
  const ids = peopleIds(db, { search: '', where: { sql: '1', values: [] } })
  for (let n = 0; n < ids.length; n += CHUNK) {
    yield ids.slice(n, n + CHUNK).map((id, k) => `${n + k > 0 ? ',\n' : ''}${JSON.stringify(exportPerson(context, id))}`).join('')
  }
  yield '\n ]\n}\n'
}
