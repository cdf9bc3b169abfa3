/** An email as one person would read it, before anything is stored or sent. */
import type { MessageContent } from '#core/message/content'
import { allBlocks, choicesOf, linksOf } from '#core/message/blocks'
import { fillMessage, type Filled, type FilledMessage } from '#core/message/fill'
import type { EmailLook } from '#core/message/look'
import { factsIn, readyIn } from '#core/message/template'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import { kindOf } from '#core/sending/kinds'
import { waitsBecause } from '#core/senders/sender'
import type { AskedReader, EmailPreview, WrittenEmail } from '#core/views/email'
import { visitsOf } from '#data/enrolments'
import { allLists, findList } from '#data/marks'
import { endingCoupons } from '#data/offers'
import { findPerson } from '#data/people'
import { mailWeightOf } from '#data/pictures'
import type { SenderRow } from '#data/senders'
import { emailLook, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { namesOf } from '../inner/names'
import { chooseFor, elseOf, factsOfReader, sayCase } from '../inner/readerFacts'
import { readyForNobody } from '../inner/ready'
import { sellerOf } from '../inner/receipts'
import { remarksOnAddress, senderOf } from '../inner/senderOf'
import { wholeEmail } from '../inner/wordings'
import { NotThere } from '../problem'

export type PreviewAsked = WrittenEmail & AskedReader & { /** As it would look so. */ emailLook?: EmailLook }

/** Links lead straight to where they point; the addresses that are made per email do nothing. Throws {@link NotThere}. */
export async function previewEmail(context: WorkspaceContext, asked: PreviewAsked): Promise<FilledMessage> {
  const kind = kindOf(asked.kind)
  const content = wholeEmail(context, asked.content)
  const compiled = await context.composer.compile(content, kind, asked.emailLook ?? emailLook(context.db))
  const all = [compiled.subject, compiled.html, compiled.text]
  const needed = new Set(all.flatMap(template => [...factsIn(template)]))
  const ready = new Set(all.flatMap(template => [...readyIn(template)]))
  return fillMessage(compiled, {
    ...readerOf(context, { ...asked, content }, needed),
    ready: {
      ...readyForNobody(context, linksOf(content.body), ready),
      ...kind.because === 'bought' && sampleReceipt(context),
    },
  })
}

/** The same for the screen, with why its reader gets what they get. */
export async function emailPreview(context: WorkspaceContext, asked: PreviewAsked): Promise<EmailPreview> {
  const { db } = context
  const { subject, text, html } = await previewEmail(context, asked)
  const content = wholeEmail(context, asked.content)
  const choices = choicesOf(content)
  const { chosen } = readerOf(context, { ...asked, content }, new Set())
  const names = namesOf(db)
  const sender = senderOf(db, { senderId: content.senderId ?? null, listId: asked.listId, personId: asked.personId })
  return {
    subject, text, bytes: Buffer.byteLength(html), hasPostalAddress: workspaceOf(db).postalAddress.trim() !== '',
    from: sender ? {
      id: sender.id, name: sender.name, address: sender.address, troubles: troublesOf(context, sender),
    } : null,
    coupons: named(endingCoupons(db), `${subject}\n${text}`),
    pictures: picturesOf(content).map(id => ({ id, bytes: mailWeightOf(db, id) })),
    offers: allBlocks(content.body).flatMap(block => block.type === 'offer'
      ? [{ blockId: block.attrs.id ?? null, offer: block.attrs.shown ?? null }]
      : []),
    why: asked.personId === null ? [] : choices.map(({ who, key }) => sayCase(who, chosen[key]!, names)),
  }
}

/** Those whose code stands in a text as a word of its own, whatever its case. */
function named<Coupon extends { code: string }>(coupons: Coupon[], text: string): Coupon[] {
  const words = new Set(text.toLowerCase().split(/[^\p{L}\p{N}_-]+/u))
  return coupons.filter(({ code }) => words.has(code.toLowerCase()))
}

/** All pictures of an email, each once. */
function picturesOf({ body }: MessageContent): number[] {
  const ids = new Set<number>()
  JSON.stringify(allBlocks(body), (key, value: unknown) => {
    if (key === 'pictureId' && typeof value === 'number') ids.add(value)
    return value
  })
  return [...ids]
}

function troublesOf(context: WorkspaceContext, sender: SenderRow): { says: string, todo: string }[] {
  const unconfirmed = waitsBecause(sender) === 'sender not confirmed'
    ? [{ says: `${sender.address} is not confirmed`, todo: 'Type the code from its email under Senders. Until then the email waits.' }]
    : []
  return [...unconfirmed, ...remarksOnAddress(context, sender.address).filter(({ weight }) => weight === 'wrong')]
}

function readerOf({ db, clock }: WorkspaceContext, asked: PreviewAsked, needed: ReadonlySet<string>): Filled {
  const { content, listId, kind, ownerId, personId, firstName, chosen } = asked
  const person = personId === null ? null : findPerson(db, personId)
  if (person === undefined) throw new NotThere('This person is no longer there.')
  const at = clock.now()
  const choices = choicesOf(content)
  const visit = person && kindOf(kind).owner === 'course' && ownerId !== null ? visitsOf(db, ownerId, person.id).at(-1) : undefined
  const known = factsOfReader(db, needed, {
    person, at, sender: senderOf(db, { senderId: content.senderId ?? null, listId, personId }),
    joinedAt: person ? visit?.joinedAt ?? null : at,
    listName: (listId !== null && findList(db, listId)?.publicName) || allLists(db)[0]?.publicName || 'Letters',
  })
  const fitting = () => person
    ? chooseFor(db, choices, person.id, at)
    : Object.fromEntries(choices.map(choice => [choice.key, elseOf(choice)]))
  return {
    facts: person ? known : { ...known, first_name: firstName, email: 'reader@example.com' },
    chosen: chosen ? Object.fromEntries(choices.map(({ key }, n) => [key, chosen[n] ?? -1])) : fitting(),
  }
}

/** As a receipt will stand in the email. */
function sampleReceipt({ db, clock }: WorkspaceContext): { receipt_html: string, receipt_text: string } {
  const { zone, currency } = workspaceOf(db)
  const receipt = {
    number: '2026-0001', at: clock.now(), zone, ...sellerOf(db), buyer: 'their name and address', currency,
    lines: [{ words: 'What they bought', amount: 4900 }], total: 4900, refunded: 0,
  }
  return { receipt_html: receiptHtml(receipt, 'email').source, receipt_text: receiptText(receipt) }
}
