import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkAddress, isReservedHost, tidyName } from '#core/people/address'
import { heldBackFor, type CheckFacts } from '#core/sending/checks'
import { HELD_BACK_REASONS } from '#core/sending/reasons'
import { kindOf, type SendKindName } from '#core/sending/kinds'
import { isGone, type Status, statusAfter, type StatusEvent } from '#core/people/status'

const STATUSES: Status[] = ['pending', 'active', 'resting', 'unsubscribed', 'bounced', 'complained']

describe('a status', () => {
  // The table of the design, section 5, written out a second time: rows are where someone stands, columns what happens.
  it.each<[Status, Record<StatusEvent, Status>]>([
    ['pending', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'pending', 'unsubscribed': 'unsubscribed',
      'bounced': 'bounced', 'complained': 'complained', 'put-to-rest': 'pending', 'woken': 'pending',
    }],
    ['active', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'active', 'unsubscribed': 'unsubscribed',
      'bounced': 'bounced', 'complained': 'complained', 'put-to-rest': 'resting', 'woken': 'active',
    }],
    ['resting', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'active', 'unsubscribed': 'unsubscribed',
      'bounced': 'bounced', 'complained': 'complained', 'put-to-rest': 'resting', 'woken': 'active',
    }],
    ['unsubscribed', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'active', 'unsubscribed': 'unsubscribed',
      'bounced': 'unsubscribed', 'complained': 'complained', 'put-to-rest': 'unsubscribed', 'woken': 'unsubscribed',
    }],
    ['bounced', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'active', 'unsubscribed': 'unsubscribed',
      'bounced': 'bounced', 'complained': 'complained', 'put-to-rest': 'bounced', 'woken': 'bounced',
    }],
    ['complained', {
      'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'came-back': 'active', 'unsubscribed': 'complained',
      'bounced': 'complained', 'complained': 'complained', 'put-to-rest': 'complained', 'woken': 'complained',
    }],
  ])('%s changes along the written table', (status, becomes) => {
    for (const [event, next] of Object.entries(becomes)) expect(statusAfter(status, event as StatusEvent), event).toBe(next)
  })

  it('of someone gone is lifted by nothing but their own opting in, buying or coming back', () => {
    for (const status of STATUSES.filter(isGone)) {
      for (const event of ['unsubscribed', 'bounced', 'complained', 'put-to-rest', 'woken'] as StatusEvent[]) {
        expect(isGone(statusAfter(status, event))).toBe(true)
      }
    }
  })
})

describe('held back', () => {
  const anyFacts: fc.Arbitrary<CheckFacts> = fc.record({
    status: fc.constantFrom(...STATUSES), list: fc.constantFrom('joined' as const, 'left' as const, 'never-joined' as const),
    listTakesEverybody: fc.boolean(), consentMissing: fc.boolean(), leftCourse: fc.boolean(), paused: fc.boolean(), askedFor: fc.boolean(),
    inNever: fc.boolean(), saidNoMore: fc.boolean(), ownsIt: fc.boolean(), isNewcomer: fc.boolean(), gotItAlready: fc.boolean(),
    tooLate: fc.boolean(), tooMany: fc.boolean(),
  })
  const mayGo = (kind: SendKindName, facts: CheckFacts) => heldBackFor(kindOf(kind).checks, facts) === null

  it('is never overlooked: only an active person, or a pending one who asked for it, who has not left may get what is planned', () => {
    fc.assert(fc.property(anyFacts, (facts) => {
      const { status, list, askedFor } = facts
      const wants = !facts.paused && !facts.saidNoMore && !facts.ownsIt
      expect(mayGo('course', facts)).toBe((status === 'active' || (status === 'pending' && askedFor))
        && (list === 'joined' || (list === 'never-joined' && facts.listTakesEverybody)) && !facts.leftCourse && !facts.consentMissing
        && (wants || askedFor) && !facts.inNever && !facts.isNewcomer && !facts.gotItAlready && !facts.tooLate && !facts.tooMany)
      // Whether it was them is asked in any case; what they paid is told wherever mail arrives.
      expect([mayGo('confirmation', facts), mayGo('receipt', facts)]).toEqual([true, status !== 'bounced' && status !== 'complained'])
    }))
  })

  it('tells one reason, the first in the fixed order, and each can be the one', () => {
    const worst: CheckFacts = {
      status: 'bounced', list: 'left', listTakesEverybody: false, consentMissing: true, leftCourse: true, paused: true, askedFor: false,
      inNever: true,
      saidNoMore: true, ownsIt: true, isNewcomer: true, gotItAlready: true, tooLate: true, tooMany: true,
    }
    const mended: Partial<CheckFacts>[] = [
      {}, { status: 'complained' }, { status: 'unsubscribed' }, { status: 'pending' }, { status: 'resting' }, { list: 'never-joined' },
      { list: 'joined' },
      { consentMissing: false }, { status: 'active' }, { paused: false }, { leftCourse: false }, { inNever: false }, { saidNoMore: false },
      { ownsIt: false }, { isNewcomer: false }, { gotItAlready: false }, { tooLate: false },
    ]
    const facts = mended.reduce<CheckFacts[]>((all, one) => [...all, { ...all.at(-1) ?? worst, ...one }], [])
    expect(facts.map(one => heldBackFor(HELD_BACK_REASONS, one))).toEqual(HELD_BACK_REASONS)
    expect(heldBackFor(HELD_BACK_REASONS, { ...facts.at(-1)!, tooMany: false })).toBeNull()
    // The order of the design, section 10.
    expect(HELD_BACK_REASONS.join(' ')).toBe(
      'bounced complained unsubscribed not-confirmed left-list not-on-list no-consent resting paused-by-themselves left-course in-never '
      + 'said-no-more owns-it newcomer got-it-already too-late too-many-emails'
    )
  })
})

describe('an address', () => {
  it.each([
    ['ada@example.com', 'ada@example.com'],
    ['  Ada.Lovelace+book@Example.COM ', 'Ada.Lovelace+book@example.com'],
    ['o\'neil@example.org', 'o\'neil@example.org'],
    ['x@sub.domain.example.org', 'x@sub.domain.example.org'],
    ['δοκιμή@παράδειγμα.δοκιμή', 'δοκιμή@παράδειγμα.δοκιμή'],
    ['用户@例子.广告', '用户@例子.广告'],
  ])('%s is taken', (typed, shown) => {
    expect(checkAddress(typed)).toMatchObject({ ok: true, address: { shown } })
  })

  it.each([
    ['', /Type your email address/], ['ada', /@/], ['@example.com', /before the @/], ['ada@', /after the @/],
    ['ada@@example.com', /one @/], ['a b@example.com', /spaces/],
    ['ada@example', /full domain, like example\.com/], ['ada,b@example.com', /comma/], ['ada@example,com', /comma/],
    ['.ada@example.com', /dot/], ['ada..l@example.com', /dot/],
    ['ada.@example.com', /dot/], ['ada@-example.com', /-example/], ['ada@example..com', /dot/], ['ada@192.0.2.1', /not a number/],
    ['ada@[192.0.2.1]', /cannot be used/],
    ['"ada l"@example.com', /spaces/], ['"ada"@example.com', /cannot be used/], ['ada<b>@example.com', /cannot be used/],
    ['a\r\nBcc: x@example.com', /spaces/],
    [`${'a'.repeat(65)}@example.com`, /too long/], [`a@${'b.'.repeat(130)}com`, /too long/],
  ])('%j is refused, and it is said why', (typed, why) => {
    const checked = checkAddress(typed)
    expect(checked.ok).toBe(false)
    expect(!checked.ok && checked.problem).toMatch(why)
  })

  it('is one person\'s whatever its letters\' case, and what is taken is taken again', () => {
    fc.assert(fc.property(fc.emailAddress(), (typed) => {
      const checked = checkAddress(typed)
      if (!checked.ok) return
      const again = checkAddress(checked.address.shown)
      expect(again).toEqual(checked)
      expect(checkAddress(typed.toUpperCase())).toMatchObject({ ok: true, address: { key: checked.address.key } })
      expect(checked.address.shown).not.toMatch(/[\r\n<>]/)
    }))
  })

  it('at a name kept for examples is known', () => {
    expect(['example.com', 'mail.example.org', 'a.test', 'x.invalid'].every(isReservedHost)).toBe(true)
    expect(['example.de', 'notexample.com', 'test.com'].some(isReservedHost)).toBe(false)
  })
})

it('a first name is kept tidy', () => {
  expect(tidyName('  Ada \t\n Lovelace\u0000\u202e ')).toBe('Ada Lovelace')
  expect(tidyName('a'.repeat(5000))).toHaveLength(80)
  // Joined emoji, flags made of tags, and scripts that are written with joiners stay whole, also at the end of what fits.
  const scotland = '\u{1f3f4}\u{e0067}\u{e0062}\u{e0073}\u{e0063}\u{e0074}\u{e007f}'
  for (const name of ['👩‍🎨 Ada', 'می‌خواهم', scotland, 'क्‍ष']) expect(tidyName(name)).toBe(name)
  expect(tidyName('‍‌ ')).toBe('')
  expect(tidyName('a'.repeat(76) + '👩‍🎨')).toBe('a'.repeat(76))
})
