import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EVERYBODY, type Condition } from '#core/audience/condition'
import { fillBlanks, hasBlanks } from '#core/people/tag'
import { inRules } from '#core/people/replaceMark'
import { circleAmong, circleThrough, NO_REACH, undoneBy, type Reach } from '#core/rules/circles'
import { newRule, thingsIn, TRIGGER_KINDS, type Action, type Rule, type RuleInput, type Trigger } from '#core/rules/rule'
import { sayCircle, sayRule, type RuleNames } from '#core/rules/say'
import { alsoOnOf, changesOf, followsOf, NOTHING_FOLLOWS, rulesOfList, rulesOfTag, type AlsoOn, type Follows } from '#core/rules/shortForms'
import { actsAt, DEEPEST_CHAIN, goesOn, indexRules, matches, mayAct, wokenBy, type RuleEvent } from '#core/rules/waking'
import { DAY, HOUR } from '#core/time/zone'

const numbered = (rules: RuleInput[]): Rule[] => rules.map((rule, n) => ({ ...rule, id: n + 1 }))
const rules = (...said: [tagId: number, follows: Partial<Follows>][]) =>
  numbered(said.flatMap(([tagId, follows]) => rulesOfTag(tagId, { ...NOTHING_FOLLOWS, ...follows })))
const letters = new Map([...'abcdefgh'].map((letter, n) => [n + 1, letter]))
const NAMES: RuleNames = {
  zone: 'UTC', lists: letters, tags: letters, pages: letters, results: () => undefined,
  courses: new Map([...letters].map(([id, name]) => [id, { name, steps: new Map([['s', 'hello']]) }])), segments: letters, offers: letters,
  fields: new Map([[1, { name: 'born', kind: 'date' }], [2, { name: 'level', kind: 'choice' }]]), touches: new Map(), brought: () => '',
  links: letters, broadcasts: letters, rules: new Map(), hooksIn: letters, hooksOut: letters,
}
const step = { kind: 'course' as const, ownerId: 1, itemId: 'x' }
const NOTHING: RuleEvent = {
  kind: 'got-tag', pageId: null, listId: null, tagIds: [], courseId: null, stepId: null, send: null, linkId: null, fieldId: null,
  from: null, to: null, offerId: null, segmentId: null, hookId: null, detail: null, text: null,
}

describe('the short forms', () => {
  it('of a tag are one rule for each that follows, and can be read back', () => {
    const others = fc.uniqueArray(fc.integer({ min: 2, max: 9 }))
    fc.assert(fc.property(others, others, others, (gives, takes, drops) => {
      expect(followsOf(1, rulesOfTag(1, { gives, takes, drops }))).toEqual({ gives, takes, drops })
    }))
  })

  it('of a list too, with the end of a course to wait for: whichever comes last brings it', () => {
    const also: fc.Arbitrary<AlsoOn[]> = fc.uniqueArray(
      fc.record({ listId: fc.integer({ min: 2, max: 5 }), afterCourseId: fc.option(fc.integer({ min: 1, max: 3 })) }),
      { selector: one => JSON.stringify(one) },
    )
    fc.assert(fc.property(also, (wanted) => {
      const byList = (list: AlsoOn[]) => list.map(one => JSON.stringify(one)).sort()
      expect(byList(alsoOnOf(1, rulesOfList(1, wanted)))).toEqual(byList(wanted))
    }))
    expect(rulesOfList(1, [{ listId: 2, afterCourseId: 3 }]).map(rule => sayRule(rule, NAMES))).toEqual([
      'When someone finishes the course “c”, only for people on the list “a”: add them to the list “b”.',
      'When someone joins the list “a”, only for people who finished “c”: add them to the list “b”.',
    ])
    // Half of the pair is an ordinary rule.
    expect(alsoOnOf(1, rulesOfList(1, [{ listId: 2, afterCourseId: 3 }]).slice(1))).toEqual([])
  })

  it('leave alone what says more, and keep the number of a rule that stays', () => {
    const more: RuleInput = {
      ...newRule({ kind: 'got-tag', thingId: 1 }, [{ kind: 'give-tag', tagId: 2 }]), who: { kind: 'status', is: ['active'] },
    }
    expect(followsOf(1, [
      more, { ...more, who: EVERYBODY, on: false }, { ...more, who: EVERYBODY, often: { kind: 'once' } },
      { ...newRule({ kind: 'lost-tag', thingId: 1, expired: true }, [{ kind: 'take-tag', tagId: 2 }]) },
    ])).toEqual(NOTHING_FOLLOWS)
    const own = rules([1, { gives: [2, 3] }])
    expect(changesOf(own, rulesOfTag(1, { gives: [3], takes: [4], drops: [] }))).toMatchObject({
      gone: [{ id: 1 }], made: [{ then: [{ kind: 'take-tag', tagId: 4 }] }],
    })
  })
})

describe('what wakes a rule', () => {
  it('is the event it names, about its thing or about any', () => {
    const index = indexRules(numbered([
      newRule({ kind: 'got-tag', thingId: 1 }), newRule({ kind: 'got-tag', thingId: 2 }), newRule({ kind: 'bought', thingId: null }),
      newRule({ kind: 'bought', thingId: 7 }),
    ]))
    const woken = (happening: Partial<RuleEvent>) => wokenBy(index, { ...NOTHING, ...happening }).map(({ id }) => id)
    expect([
      woken({ tagIds: [1] }), woken({ tagIds: [2, 1] }), woken({ tagIds: [3] }), woken({ kind: 'bought', offerId: 7 }),
      woken({ kind: 'bought', offerId: 8 }), woken({ kind: 'renewed', offerId: 7 }),
    ]).toEqual([[1], [1, 2], [], [3, 4], [3], []])
  })

  const cases: [string, Trigger, Partial<RuleEvent>, boolean][] = [
    ['a reader’s click', { kind: 'clicked', thingId: 4 }, { linkId: 4, detail: 'reader' }, true],
    ['no scanner’s', { kind: 'clicked', thingId: 4 }, { linkId: 4, detail: 'scanner' }, false],
    ['no prefetch', { kind: 'opened', thingId: null }, { detail: 'prefetch' }, false],
    ['an email of the course', { kind: 'opened', thingId: null, which: { ...step, itemId: null } }, { send: step, detail: 'reader' }, true],
    ['only that email', { kind: 'sent', thingId: null, which: { ...step, itemId: 'y' } }, { send: step }, false],
    ['of that kind', { kind: 'sent', thingId: null, which: { kind: 'file', ownerId: 1, itemId: null } }, { send: step }, false],
    ['any email', { kind: 'sent', thingId: null, which: null }, { send: step }, true],
    ['a loss by time', { kind: 'lost-tag', thingId: 1, expired: true }, { tagIds: [1], detail: 'expired' }, true],
    [
      'no loss by hand where only time is meant', { kind: 'lost-tag', thingId: 1, expired: true }, { tagIds: [1], detail: 'by-hand' },
      false,
    ],
    ['a change to a value', { kind: 'field-changed', thingId: 2, to: 'master' }, { fieldId: 2, from: null, to: 'master' }, true],
    [
      'a change of a number, which events keep as text', { kind: 'field-changed', thingId: 2, from: 0, to: 2 },
      { fieldId: 2, from: 0, to: 2 }, true,
    ],
    ['no change to another', { kind: 'field-changed', thingId: 2, to: 'master' }, { fieldId: 2, from: 'master', to: 'beginner' }, false],
    [
      'no change to nothing where a value is asked', { kind: 'field-changed', thingId: 2, to: 'master' },
      { fieldId: 2, from: 'beginner', to: null }, false,
    ],
    ['so many days of silence', { kind: 'became-silent', thingId: null, days: 30 }, { detail: '30' }, true],
    ['no other number of days', { kind: 'became-silent', thingId: null, days: 30 }, { detail: '60' }, false],
    ['the day, every year', { kind: 'date-arrived', thingId: 1, days: -7, yearly: true }, { fieldId: 1, detail: '-7 yearly' }, true],
    ['no day of one year only', { kind: 'date-arrived', thingId: 1, days: -7, yearly: true }, { fieldId: 1, detail: '-7' }, false],
    ['the points', { kind: 'reached-score', thingId: null, points: 15 }, { detail: '15' }, true],
    ['the to-do that says it', { kind: 'todo-done', thingId: null, text: 'call' }, { text: 'call' }, true],
    ['no other to-do', { kind: 'todo-done', thingId: null, text: 'call' }, { text: 'write' }, false],
  ]
  it.each(cases)('%s', (_, when, happening, wakes) => expect(matches(when, { ...NOTHING, kind: when.kind, ...happening })).toBe(wakes))
})

describe('how often, and how far', () => {
  const may = (often: Rule['often'], before: Partial<Parameters<typeof mayAct>[1]>, at = 10 * DAY) =>
    mayAct({ often }, { depth: 0, sameRoot: false, lastAt: null, ...before }, at)

  it('once per person, each time, or at most every so many days (24 hours)', () => {
    expect([may({ kind: 'once' }, {}), may({ kind: 'once' }, { lastAt: 1 }), may({ kind: 'each' }, { lastAt: 1 })]).toEqual([
      'acts', 'acted-once', 'acts',
    ])
    expect([may({ kind: 'every', days: 3 }, { lastAt: 7 * DAY }), may({ kind: 'every', days: 3 }, { lastAt: 7 * DAY + 1 })]).toEqual([
      'acts', 'too-soon',
    ])
  })

  it('once from one root event, and twenty deep', () => {
    expect([
      may({ kind: 'each' }, { sameRoot: true, lastAt: 1 }), may({ kind: 'each' }, { depth: DEEPEST_CHAIN - 1 }),
      may({ kind: 'each' }, { depth: DEEPEST_CHAIN }),
    ]).toEqual(['circle', 'acts', 'too-deep'])
  })

  it('a story goes on through what comes of it at once, and what somebody does or time brings begins another', () => {
    const link = (kind: Parameters<typeof goesOn>[0]['kind'], detail: string | null = null, at = 0) => ({ kind, at, detail })
    const cause = link('got-tag')
    expect([
      link('got-tag'), link('joined-list'), link('entered-segment'), link('reached-score'), link('enrolled'), link('sent', 'by-rule'),
      link('lost-tag'), link('finished-course', null, HOUR - 1),
    ].map(event => goesOn(event, cause))).toEqual(Array(8).fill(true))
    expect([
      link('clicked', 'reader'), link('opened', 'reader'), link('bought'), link('sent'), link('lost-tag', 'expired'),
      link('finished-course', null, HOUR), link('todo-done'), link('became-silent', '30'),
    ].map(event => goesOn(event, cause))).toEqual(Array(8).fill(false))
    // A sale told of late counts from when we hear of it; a vanishing tag from when it vanished.
    expect([actsAt({ kind: 'bought', at: 1 }, 5), actsAt({ kind: 'lost-tag', at: 1 }, 5)]).toEqual([5, 1])
  })
})

describe('a circle', () => {
  it.each([
    [
      'getting gives itself by another', rules([1, { gives: [2] }], [2, { gives: [1] }]),
      'when someone gets the tag “a”: add the tag “b”; then, as someone gets the tag “b”: add the tag “a”; and so on, from the beginning',
    ],
    [
      'three layers down', rules([1, { gives: [2] }], [2, { gives: [3] }], [3, { gives: [2] }]),
      'when someone gets the tag “b”: add the tag “c”; then, as someone gets the tag “c”: add the tag “b”; and so on, from the beginning',
    ],
    [
      'losing loses itself', rules([1, { drops: [2] }], [2, { drops: [1] }]),
      'when someone loses the tag “a”: remove the tag “b”; then, as someone loses the tag “b”: remove the tag “a”; and so on, from the beginning',
    ],
  ])('%s', (_, given, path) => {
    const found = circleAmong(given, NO_REACH)
    expect(found && sayCircle(found, NAMES)).toBe(path)
  })

  it('is also what takes away what it stands on, which short forms may not do', () => {
    const gone = rules([1, { gives: [2] }], [2, { takes: [1] }])
    expect([circleAmong(gone, NO_REACH), undoneBy(gone[0]!, gone, NO_REACH)?.map(({ id }) => id)]).toEqual([null, [1, 2, 1]])
    const fine = rules(
      [1, { gives: [2], takes: [3] }], [2, { gives: [4] }], [3, { takes: [1] }], [4, { takes: [3] }], [1, { drops: [2] }],
      [2, { drops: [4] }],
    )
    expect(fine.map(rule => undoneBy(rule, fine, NO_REACH) ?? circleThrough(rule, fine, NO_REACH))).toEqual(fine.map(() => null))
  })

  it('goes through courses that a tag starts, lists that end them, segments, points and emails, and stops at a rule that is off', () => {
    const reach: Reach = {
      coursesStartedBy: tag => tag === 1 ? [5] : [], coursesStartedByList: () => [], courses: new Map(),
      coursesOfList: list => list === 1 ? [5] : [],
      segments: new Map<number, Condition>([
        [1, { kind: 'segment', segmentId: 2 }],
        [2, { kind: 'any', of: [{ kind: 'tag', tagId: 3, since: null }, { kind: 'score', atLeast: 5 }] }],
      ]),
    }
    const mail: Action = {
      kind: 'email', listId: 1, messageId: null,
      content: { workingTitle: 'x', subject: [], preview: [], body: { type: 'doc', content: [] } },
    }
    const through = (...list: [Trigger, Action][]) => {
      const all = numbered(list.map(([when, action]) => newRule(when, [action])))
      return [
        circleThrough(all[0]!, all, reach)?.length ?? null,
        circleThrough({ ...all[0]! }, all.map((rule, n) => ({ ...rule, on: n === 0 })), reach)?.length ?? null,
      ]
    }
    expect(through(
      [{ kind: 'enrolled', thingId: 5 }, { kind: 'take-tag', tagId: 2 }],
      [{ kind: 'lost-tag', thingId: 2 }, { kind: 'give-tag', tagId: 1 }],
    )).toEqual([3, null])
    expect(through(
      [{ kind: 'left-course', thingId: 5 }, { kind: 'score', points: 2 }],
      [{ kind: 'entered-segment', thingId: 1 }, { kind: 'leave-list', listId: 1 }],
    )).toEqual([3, null])
    expect(through(
      [{ kind: 'reached-score', thingId: null, points: 9 }, { kind: 'give-tag', tagId: 3 }],
      [{ kind: 'entered-segment', thingId: 2 }, { kind: 'score', points: 1 }],
    )).toEqual([3, null])
    expect(through([{ kind: 'sent', thingId: null }, mail])).toEqual([2, 2])
    expect(through([{ kind: 'field-changed', thingId: 2, to: 'master' }, { kind: 'set-field', fieldId: 2, value: 'beginner' }])).toEqual([
      null, null,
    ])
    expect(through([{ kind: 'date-arrived', thingId: 1, days: 0 }, { kind: 'set-field', fieldId: 1, value: null, today: true }])).toEqual([
      null, null,
    ])
    expect(through([{ kind: 'lost-tag', thingId: 2, expired: true }, { kind: 'take-tag', tagId: 2 }])).toEqual([null, null])
  })

  it('is found exactly where following the rules comes back', () => {
    const edge = fc.tuple(
      fc.integer({ min: 1, max: 5 }), fc.constantFrom('gives' as const, 'takes' as const, 'drops' as const), fc.integer({ min: 1, max: 5 }),
    ).filter(([a, , b]) => a !== b)
    fc.assert(fc.property(fc.uniqueArray(edge, { maxLength: 8, selector: one => one.join() }), (edges) => {
      const given = rules(...edges.map(([a, key, b]) => [a, { [key]: [b] }] as [number, Partial<Follows>]))
      // By brute force: everything that can come of each beginning, in any number of steps.
      const comesOf = (begin: string): Set<string> => {
        const found = new Set<string>()
        const walk = (at: string) => {
          for (const { when, then } of given) if (`${when.kind} ${when.thingId}` === at) for (const action of then) {
            const next = `${action.kind === 'give-tag' ? 'got-tag' : 'lost-tag'} ${(action as { tagId: number }).tagId}`
            if (!found.has(next)) {
              found.add(next)
              walk(next)
            }
          }
        }
        walk(begin)
        return found
      }
      const beginnings = given.map(({ when }) => ({ itself: `${when.kind} ${when.thingId}`, lost: `lost-tag ${when.thingId}` }))
      expect(circleAmong(given, NO_REACH) !== null).toBe(beginnings.some(({ itself }) => comesOf(itself).has(itself)))
      const undone = given.some((rule, n) => rule.when.kind === 'got-tag' && comesOf(beginnings[n]!.itself).has(beginnings[n]!.lost))
      expect(given.some(rule => circleThrough(rule, given, NO_REACH) ?? undoneBy(rule, given, NO_REACH))).toBe(
        undone || beginnings.some(({ itself }) => comesOf(itself).has(itself)),
      )
    }))
  })
})

describe('a rule as it is told', () => {
  it('is one sentence, whatever it is about, and every kind has its words', () => {
    const rule: RuleInput = { ...newRule(
      { kind: 'opted-in', thingId: 1 },
      [{ kind: 'give-tag', tagId: 2 }, { kind: 'enrol', courseId: 3 }, { kind: 'notice', text: 'look', email: 'daily' }],
    ), who: { kind: 'tag', tagId: 4, since: null }, often: { kind: 'every', days: 7 } }
    expect(sayRule(rule, NAMES)).toBe(
      'When someone opts in on “a”, only for people tagged “d”: add the tag “b”, start the course “c” and notify me “look”, in one email a day, at most every 7 days per person.',
    )
    const said = TRIGGER_KINDS.map(kind =>
      sayRule(newRule({ kind, thingId: 1, days: -2, points: 5, stepId: 's' }, [{ kind: 'score', points: -1 }]), NAMES))
    expect(new Set(said).size).toBe(TRIGGER_KINDS.length)
    expect(said.every(sentence =>
      sentence.endsWith(': take 1 point off their score.') && !sentence.includes('undefined') && !sentence.includes('deleted'))).toBe(true)
  })

  it('names everything it is about, each once', () => {
    expect(thingsIn({ ...newRule(
      { kind: 'clicked', thingId: 9 }, [{ kind: 'give-tag', tagId: 1 }, { kind: 'take-tag', tagId: 1 }, { kind: 'webhook', hookId: 2 }],
    ), who: { kind: 'none', of: [{ kind: 'tag', tagId: 3, since: null }, { kind: 'segment', segmentId: 4 }] } }))
      .toEqual([
        { kind: 'link', id: 9 }, { kind: 'tag', id: 3 }, { kind: 'segment', id: 4 }, { kind: 'tag', id: 1 }, { kind: 'hookOut', id: 2 },
      ])
  })
})

describe('a tag put in the place of another', () => {
  it('takes over its rules; what would follow from itself, or twice, goes', () => {
    const before = rules([1, { gives: [2, 3] }], [2, { gives: [3] }], [4, { gives: [1, 2] }])
    expect(
      inRules(before, { kind: 'tag', from: 1, to: 2 }).map(({ when, then }) => [when.thingId, (then[0] as { tagId: number }).tagId]),
    ).toEqual([[2, 3], [4, 2]])
  })
})

it('a name with blanks is filled in for the zone of the workspace', () => {
  const at = Date.UTC(2026, 10, 30, 23, 30)
  expect(fillBlanks('joined [month]', { at, zone: 'Europe/Lisbon', launch: null })).toBe('joined November 2026')
  expect(fillBlanks('joined [Month]', { at, zone: 'Europe/Berlin', launch: null })).toBe('joined December 2026')
  expect(fillBlanks('saw [launch] early', { at, zone: 'UTC', launch: 'Spring press' })).toBe('saw Spring press early')
  expect(fillBlanks('saw [launch] early', { at, zone: 'UTC', launch: null })).toBe('saw early')
  expect([hasBlanks('[month]'), hasBlanks('[monthly]'), hasBlanks('month')]).toEqual([true, false, false])
})
