/** What is looked at before an email leaves: per check, what it accepts and what it refuses. */
import { describe, expect, it } from 'vitest'
import { CHECKS, checkMessage } from '#core/message/checks'
import { MOST_BYTES, PHONE_SUBJECT_PX, type Asked } from '#core/message/checks/check'
import { EVERYBODY, type Condition } from '#core/audience/condition'
import type { BlockNode, CaseNode, MessageContent, ShownOffer } from '#core/message/content'
import { easeOf } from '#core/message/ease'

const asked: Asked = {
  // A Thursday.
  now: Date.UTC(2026, 10, 26, 12), zone: 'Europe/Lisbon', own: false, widthOf: text => [...text].length * 8, easeOf, bytes: 30_000,
  hasPostalAddress: true, from: null, pictureBytes: new Map(), deadLinks: new Map(), coupons: [],
  isLasting: false, choices: null, offers: null,
}
const text = (words: string): BlockNode => ({ type: 'paragraph', attrs: { id: 'p' }, content: [{ type: 'text', text: words }] })
const linked = (href: string): BlockNode => ({
  type: 'paragraph', attrs: { id: 'l' }, content: [{ type: 'text', text: 'here', marks: [{ type: 'link', attrs: { href } }] }],
})
const button = (url: string, label = 'Open'): BlockNode => ({ type: 'button', attrs: { id: 'b', label, url, tagId: null } })
const picture = (alt: string, more: object = {}): BlockNode =>
  ({ type: 'picture', attrs: { id: 'i', pictureId: 1, alt, url: '', size: 100, ...more } })
const mail = (blocks: BlockNode[] = [text('Words.')], line = 'Three books', preview = 'From one set of sections'): MessageContent => ({
  workingTitle: 'x', subject: line ? [{ type: 'text', text: line }] : [], preview: preview ? [{ type: 'text', text: preview }] : [],
  body: { type: 'doc', content: blocks },
})
const NOW = Date.UTC(2026, 10, 26, 12)
const sold = (more: Partial<ShownOffer> = {}): ShownOffer => ({
  name: 'Class', url: 'https://porch.example.com/s/class', price: '€180.00', reduced: '€160.00', code: 'GUILD', closesAt: NOW + 1e9,
  couponUntilAt: NOW + 1e9, ...more,
})
const countdown = (until: number | null): BlockNode =>
  ({ type: 'countdown', attrs: { id: 'c', offerId: null, until, before: '', after: '' } })
const some: Condition = { kind: 'all', of: [{ kind: 'tag', tagId: 1, since: null }] }
const versions = (who: Condition, first = [text('For these.')], rest = [text('For the rest.')]): BlockNode => ({
  type: 'onlyFor', attrs: { id: 'v' }, content: [
    { type: 'case', attrs: { who }, content: first }, { type: 'case', attrs: { who: null }, content: rest },
  ] as CaseNode[],
})
const counted = (these: number, rest: number) =>
  [{ key: '0', cases: [{ says: 'tagged “coptic”', people: these }, { says: 'everybody else', people: rest }], none: 0 }]
const own: BlockNode = { type: 'ownButton', attrs: { label: 'Yes' } }
const EASY = 'We fold the sheet once. Then we turn it and fold it again. You can do it with me. '.repeat(8)
const HARD = 'Notwithstanding considerable organisational complexities, participants systematically internalise interdisciplinary methodologies. '.repeat(12)

/** What it says of each; none where it is in order. */
const TABLE: [name: string, content: MessageContent, says: string[], more?: Partial<Asked>][] = [
  ['Subject and preview text', mail(), []],
  ['Subject and preview text', mail(undefined, '', ''), ['There is no subject', 'There is no preview text']],
  ['Subject and preview text', mail(undefined, 'x'.repeat(PHONE_SUBJECT_PX / 8)), []],
  ['Subject and preview text', mail(undefined, 'x'.repeat(PHONE_SUBJECT_PX / 8 + 1)), ['A phone cuts the subject']],
  ['Offers can be bought', mail(), [], { offers: [{ blockId: 'o', offer: sold() }] }],
  ['Offers can be bought', mail(), ['An offer cannot be bought'], { offers: [{ blockId: 'o', offer: null }] }],
  ['Offers can be bought', mail(), ['“Class” has closed'], { offers: [{ blockId: 'o', offer: sold({ closesAt: NOW }) }] }],
  ['Offers can be bought', mail(), ['The coupon GUILD has ended'], { offers: [{ blockId: 'o', offer: sold({ couponUntilAt: NOW }) }] }],
  ['Offers can be bought', mail(), ['The coupon ends before the offer'], {
    offers: [{ blockId: 'o', offer: sold({ couponUntilAt: NOW + 1 }) }],
  }],
  ['Offers can be bought', mail(), ['The coupon outlives the offer'], {
    offers: [{ blockId: 'o', offer: sold({ couponUntilAt: NOW + 2e9 }) }],
  }],
  ['Coupons still work', mail(), [], { coupons: [{ code: 'GUILD', offer: 'Class', untilAt: NOW + 1, closesAt: NOW + 1 }] }],
  ['Coupons still work', mail(), ['The coupon GUILD has ended'], {
    coupons: [{ code: 'GUILD', offer: 'Class', untilAt: NOW, closesAt: null }],
  }],
  ['Coupons still work', mail(), ['The coupon GUILD stops Thu 26 Nov, 12:00'], {
    coupons: [{ code: 'GUILD', offer: 'Class', untilAt: NOW + 1, closesAt: null }], isLasting: true,
  }],
  ['Coupons still work', mail(), ['The coupon GUILD stops Thu 26 Nov, 12:00'], {
    coupons: [{ code: 'GUILD', offer: 'Class', untilAt: NOW + 1, closesAt: NOW + 1e9 }],
  }],
  ['Coupons still work', mail(), [], {
    coupons: [{ code: 'guild', offer: 'Class', untilAt: NOW, closesAt: null }], offers: [{ blockId: 'o', offer: sold() }],
  }],
  ['Countdowns end later', mail([countdown(NOW + 1)]), []],
  ['Countdowns end later', mail([countdown(NOW)]), ['A countdown is over already']],
  ['Countdowns end later', mail([countdown(null)]), ['A countdown has no end']],
  ['Versions reach people', mail([versions(some)]), []],
  ['Versions reach people', mail([versions(EVERYBODY)]), ['A version is for nobody in particular']],
  ['Versions reach people', { ...mail(), subjectFor: [{ who: EVERYBODY, subject: [] }] }, ['A version is for nobody in particular']],
  ['Versions reach people', mail([versions(some)]), [], { choices: counted(3, 4) }],
  ['Versions reach people', mail([versions(some)]), ['Nobody gets the version for people tagged “coptic”'], { choices: counted(0, 7) }],
  ['Versions reach people', mail([versions(some)]), ['Everybody gets the version for people tagged “coptic”'], { choices: counted(7, 0) }],
  ['Versions reach people', mail([versions(some)]), [], { choices: counted(0, 0) }],
  ['One thing to do', mail([versions(some, [button('https://a.example.com/')], [button('https://b.example.com/')])]), []],
  ['One thing to do', mail([button('https://c.example.com/'), versions(some, [text('x')], [button('https://b.example.com/')])]), [
    '2 buttons lead to different places',
  ]],
  ['Its own button', mail([versions(some, [own], [own])]), [], { own: true }],
  ['Its own button', mail([versions(some, [own], [text('none')])]), ['Its own button is missing'], { own: true }],
  ['Its own button', mail(), ['Its own button is missing'], { own: true }],
  ['Its own button', mail([{ type: 'ownButton', attrs: { label: 'Yes', hidden: true } }]), ['Its own button is missing'], { own: true }],
  ['Its own button', mail([{ type: 'ownButton', attrs: { label: 'Yes' } }]), [], { own: true }],
  ['Links have an address', mail([
    linked('https://a.example.com/'), linked('mailto:ines@example.com'), button('https://a.example.com/'),
  ]), []],
  ['Links have an address', mail([button('https://')]), ['“Open” leads nowhere']],
  ['Links have an address', mail([{ ...button('https://'), attrs: { ...button('').attrs, hidden: true } } as BlockNode]), []],
  ['Links have an address', mail([linked('https://a.example.com/?name={{first_name}}')]), ['“here” has a placeholder in its address']],
  ['Pictures are described', mail([text('x'), picture('Three books')]), []],
  ['Pictures are described', mail([text('x'), picture('', { isPlain: true })]), []],
  ['Pictures are described', mail([text('x'), picture(' ')]), ['A picture has no description']],
  ['Pictures are described', mail([text('x'), picture('', { pictureId: null })]), ['A picture is missing']],
  ['Pictures are described', mail([picture('Three books')]), ['There are only pictures']],
  ['Dates are right', mail([text('It closes on Saturday 5 December at 20:00, Lisbon time.')]), []],
  ['Dates are right', mail([text('It closes on Sunday 5 December.')]), ['“Sunday 5 December” is a Saturday']],
  ['Dates are right', mail([text('It closes on Sat, December 5th, 2026.')]), []],
  ['Dates are right', mail([text('It was on 3 November.')]), ['“3 November” has passed']],
  ['Dates are right', mail([text('On 31 November.')]), ['“31 November” is no date']],
  ['Dates are right', mail([text('On 29 February 2028 and 29 February 2027.')]), ['“29 February 2027” is no date']],
  ['Dates are right', mail([text('We may 3 times. On 2 January we begin.')]), []],
  ['Dates are right', mail(undefined, 'Closes Friday 4 December'), []],
  ['Dates are right', mail(undefined, 'Closes Thursday 4 December'), ['“Thursday 4 December” is a Friday']],
  ['One thing to do', mail([button('https://a.example.com/'), button('https://a.example.com/', 'Again')]), []],
  ['One thing to do', mail([button('https://a.example.com/'), button('https://b.example.com/')]), ['2 buttons lead to different places']],
  ['Nothing shouts', mail(undefined, 'PDF: three books'), []],
  ['Nothing shouts', mail(undefined, 'LAST DAY TODAY'), ['The subject is in capitals']],
  ['Nothing shouts', mail(undefined, 'Really?!'), ['The subject has several ! or ? in a row']],
  ['Easy to read', mail([text(EASY)]), []],
  ['Easy to read', mail([text(HARD)]), ['It is hard to read']],
  ['Easy to read', mail([text('Interdisciplinary methodologies.')]), []],
  ['Files', { ...mail(), attached: [{ fileId: 1, name: 'kit.pdf', bytes: 200_000 }] }, []],
  ['Files', { ...mail(), attached: [{ fileId: 1, name: 'kit.pdf', bytes: 2_000_000 }] }, ['2.7 MB are attached']],
  ['Files', { ...mail(), attached: [{ fileId: 1, name: 'kit.pdf', bytes: 9_000_000 }] }, ['The attached files are too heavy']],
  ['Files', mail([{ type: 'file', attrs: { fileId: null, fileName: '', bytes: 0, label: '' } }]), ['A file is missing']],
  ['Links have an address', mail([button('https://a.example.com/', 'Go')]), ['“Go” does not answer'], {
    deadLinks: new Map([['https://a.example.com/', 'it says the page does not exist (404)']]),
  }],
  ['Pictures are described', mail([text('x'), picture('Three books', { pictureId: 7 })]), ['A picture weighs 1.2 MB'], {
    pictureBytes: new Map([[7, 1_200_000]]),
  }],
  ['Pictures are described', mail([text('x'), picture('Three books', { pictureId: 7 })]), [], { pictureBytes: new Map([[7, 1_000_000]]) }],
  ['Placeholders are filled in', mail([text('Hello {there}, it is 5 % off.')]), []],
  ['Placeholders are filled in', mail([text('Hello {{first_name}}, and {% if x %}you{% endif %}')], 'For {{ name }}'), [
    '“{{ name }}” is not filled in', '“{{first_name}}” is not filled in',
  ]],
  ['Placeholders are filled in', mail([button('https://a.example.com/', 'Go, {{name}}')]), ['“{{name}}” is not filled in']],
  ['Sender', mail(), [], { from: { address: 'ines@saltmarsh.example.com', troubles: [] } }],
  ['Sender', mail(), ['gmail.com belongs to a free mail service'], {
    from: { address: 'ines@gmail.com', troubles: [{ says: 'gmail.com belongs to a free mail service', todo: 'Use another.' }] },
  }],
  ['Unsubscribe link and address', mail(), []],
  ['Unsubscribe link and address', mail(), ['Your postal address is missing'], { hasPostalAddress: false }],
  ['Weight', mail(), []],
  ['Weight', mail(), [], { bytes: MOST_BYTES }],
  ['Weight', mail(), ['It is too large'], { bytes: MOST_BYTES + 1 }],
]

describe('before it leaves', () => {
  it.each(TABLE)('%s: case %#', (name, content, says, more) => {
    const check = CHECKS.find(one => one.name === name)!
    expect(check.find(content, { ...asked, ...more }).map(finding => finding.says)).toEqual(says)
  })

  it('every check is tried on something it accepts and something it refuses', () => {
    for (const { name } of CHECKS) {
      const tried = TABLE.filter(([of]) => of === name)
      expect([tried.some(([, , says]) => says.length === 0), tried.some(([, , says]) => says.length > 0)], name).toEqual([true, true])
    }
  })

  it('what is wrong comes first, each with what to do and where; what is in order is counted', () => {
    const { findings, passed } = checkMessage(mail([text('On 3 November.'), button('https://'), picture('')], ''), asked)
    expect(findings.map(({ weight, at }) => ({ weight, at }))).toEqual([
      { weight: 'wrong', at: 'subject' }, { weight: 'wrong', at: { blockId: 'b' } }, { weight: 'wrong', at: { blockId: 'i' } },
      { weight: 'look', at: { blockId: 'p' } },
    ])
    expect(findings.every(({ todo }) => todo.length > 10)).toBe(true)
    expect(passed).toContainEqual({ name: 'Weight', detail: '30 of 102 kB' })
    expect(passed.map(({ name }) => name)).not.toContain('Its own button')
  })

  // Flesch 1948, “A new readability yardstick”, Journal of Applied Psychology 32: 206.835 - 0.846 wl - 1.015 sl. From memory.
  it('reading ease is Flesch’s: 206.835 less 84.6 syllables a word and 1.015 words a sentence', () => {
    const sentence = 'the cat sat on the mat and the dog ran to the man with a hat.'
    expect(easeOf(`${sentence} `.repeat(7))).toBeCloseTo(206.835 - 84.6 - 1.015 * 16, 5)
  })
})
