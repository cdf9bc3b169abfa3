/** Everything about one person, to be given to them: open, whole, and readable without us. */
import { sayEvent } from '#core/events'
import { writeMoney } from '#core/money/money'
import { sayCountry } from '#core/people/country'
import { sayIso } from '#core/time/say'
import type { Instant } from '#core/time/zone'
import { readTogether } from '#data/connection'
import { allFields } from '#data/fields'
import { personalOf } from '#data/events'
import { readingOfPerson } from '#data/reading'
import { formerAddresses } from '#data/sameness'
import type { WorkspaceContext } from '../context'
import { subscriberView } from './subscriber'

const when = (at: Instant | null) => at === null ? null : sayIso(at)

/** Instants are ISO 8601 in UTC. What is not known is null. */
export function exportPerson(context: WorkspaceContext, id: number): Record<string, unknown> {
  const { db } = context
  return readTogether(db, () => {
    const { person, lists, tags, fields, consents, segments, courses, emails, events, brought, purchases, noMore, waits } = subscriberView(
      context, id,
    )
    const names = new Map(allFields(db).map(field => [field.id, field]))
    const personal = personalOf(db, id)
    const reading = readingOfPerson(db, id)
    return {
      format: 'keen-porch-person',
      version: 1,
      madeAt: sayIso(context.clock.now()),
      address: person.address,
      formerAddresses: formerAddresses(db, id).map(({ address, untilAt }) => ({ address, until: when(untilAt) })),
      firstName: person.firstName || null,
      status: person.status,
      timeZone: person.zone,
      country: person.country && { code: person.country, name: sayCountry(person.country) },
      arrivedAt: when(person.createdAt),
      source: person.source,
      broughtBy: brought,
      fields: fields.map(({ fieldId, value }) => ({
        name: names.get(fieldId)!.name, label: names.get(fieldId)!.label,
        value: names.get(fieldId)!.kind === 'yes-no' ? value === 1 : value,
      })),
      consents: consents.map(({ wording, at, confirmedAt, ip, zone, origin, pageName, pageVersion }) => ({
        wording, at: when(at), confirmedAt: when(confirmedAt), where: pageName ? `the page ${pageName}, version ${pageVersion}` : origin,
        ipAddress: ip, timeZone: zone,
      })),
      lists: lists.map(({ name, joinedAt, leftAt }) => ({ name, joinedAt: when(joinedAt), leftAt: when(leftAt) })),
      tags: tags.map(({ name, sinceAt, expiresAt }) => ({ name, since: when(sinceAt), until: when(expiresAt) })),
      segments: segments.map(({ name }) => name),
      courses: courses.map(({ name, status, joinedAt, endedAt }) => ({ name, status, joinedAt: when(joinedAt), endedAt: when(endedAt) })),
      purchases: purchases.map(({ offerName, currency, boughtAt, couponCode, isOver, payments }) => ({
        offer: offerName, boughtAt: when(boughtAt), coupon: couponCode, theirs: !isOver,
        payments: payments.map(({ at, amount, refunded, disputed, receipt }) => ({
          at: when(at), receipt, amount: writeMoney({ amount, currency }), wentBack: writeMoney({ amount: refunded, currency }), currency,
          disputed,
        })),
      })),
      waitsFor: waits.map(({ name, since, place }) => ({ offer: name, since: when(since), place })),
      saidNoMoreOf: noMore.map(({ name, at }) => ({ offer: name, since: when(at) })),
      emails: emails.map(email => ({
        title: email.title, from: email.of, plannedAt: when(email.plannedAt), status: email.status, reason: email.reason,
        sentAt: when(email.handedOverAt),
        opens: reading.filter(one => one.outboxId === email.id && one.kind === 'open')
          .map(one => ({ at: when(one.at), judged: one.judged })),
        clicks: reading.filter(one => one.outboxId === email.id && one.kind === 'click')
          .map(one => ({ at: when(one.at), judged: one.judged, link: one.url })),
      })),
      history: [...events].reverse()
        .map(event => ({ at: when(event.at), what: sayEvent(event), ...(personal.has(event.id) && { facts: personal.get(event.id) }) })),
    }
  })
}
