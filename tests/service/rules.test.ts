import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { sayEvent } from '#core/events'
import { newRule, type Action, type RuleInput, type Trigger } from '#core/rules/rule'
import { eventsOfPerson, wholeStory } from '#data/events'
import { findMembership, hasTag, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { firingsOfRule } from '#data/rules'
import { openTodos } from '#data/todos'
import { leave } from '#usecases/arrive/leave'
import { giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { deleteTag } from '#usecases/know/endMarks'
import { saveField } from '#usecases/know/fields'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { removeRule, runRule, saveRule, switchRule } from '#usecases/know/rules'
import { saveSegment } from '#usecases/know/segments'
import { tryRules } from '#usecases/know/tryRule'
import { setField } from '#usecases/inner/facts/fieldValue'
import { transact } from '#usecases/inner/reactor/transaction'
import { chainOf, ruleLines, ruleView } from '#usecases/views/rules'
import { todayView } from '#usecases/views/today'
import { NotNow, type InputProblem } from '#usecases/problem'
import { recordClick } from '#usecases/reading/click'
import { rowsOf } from './dump'
import { nameOfSend } from '#usecases/inner/sendNames'
import { DAY, email, furnish, HOUR, moveTo, openContext, tag, thursdayNoon, visit, type Workshop } from './workshop'

const only = (...of: Condition[]): Condition => ({ kind: 'all', of: [{ kind: 'all', of }, { kind: 'none', of: [] }] })
const has = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })

/** Saves a rule that is expected to be saved. */
async function rule(
  context: Workshop, when: Trigger, then: Action[], more: Partial<RuleInput> = {}, evenInCircle = false,
): Promise<number> {
  const saved = await saveRule(context, null, { ...newRule(when, then), ...more }, evenInCircle)
  if (!saved.saved) throw new Error(saved.circle)
  return saved.id
}
const gives = (tagId: number): Action => ({ kind: 'give-tag', tagId })
const marksOf = (context: Workshop, id: number) => tagsOfPerson(context.db, id).map(({ name }) => name).sort()
const kinds = (context: Workshop, id: number) => eventsOfPerson(context.db, id).reverse().map(({ kind }) => kind)

describe('a house rule', () => {
  it('acts in the moment of the event, in its order, on whom it is for, and says what each action came to', async () => {
    const { context, listId, tagId, interestId, pageId } = await furnish(openContext())
    const vip = saveTag(context, null, tag('vip'))
    const other = saveList(context, null, { name: 'news', publicName: 'News', description: '' })
    const id = await rule(context, { kind: 'opted-in', thingId: pageId }, [
      gives(vip), { kind: 'join-list', listId: other }, { kind: 'join-list', listId },
      { kind: 'todo', text: 'say hello', days: 2, helper: 'Nuno' }, { kind: 'score', points: 7 },
    ], { who: only({ kind: 'zone', is: ['Asia/Kathmandu'] }) })
    const [far, near] = [visit(context, 'far@example.com', 'Far', 'Asia/Kathmandu'), visit(context, 'near@example.com')]
    expect([marksOf(context, far), marksOf(context, near)]).toEqual([['sheet kit', 'vip'], ['sheet kit']])
    expect(findMembership(context.db, other, far)).toMatchObject({ joinedAt: thursdayNoon })
    expect(openTodos(context.db)).toMatchObject([{ personId: far, text: 'say hello', helper: 'Nuno', dueOn: '2026-11-28' }])
    expect(firingsOfRule(context.db, id, 9)).toMatchObject([{
      personId: far,
      did: [{ outcome: 'given' }, { outcome: 'put-on' }, { outcome: 'was-on-it' }, { outcome: 'todo-made' }, { outcome: 'scored' }],
    }])
    // Every event that a rule wrote names it, and stands below what woke it.
    const events = eventsOfPerson(context.db, far)
    const got = events.find(event => event.kind === 'got-tag' && event.tagName === 'vip')!
    expect([sayEvent(got), got.ruleId, events.find(event => event.id === got.causeId)!.kind]).toEqual([
      'got the tag “vip”, by a house rule', id, 'opted-in',
    ])
    expect(ruleView(context, id)).toMatchObject({
      line: { times30: 1, people30: 1 }, fits: { people: 1, standing: true },
      firings: [{ person: { id: far }, woke: 'opted in on “Sheet kit”', changed: true }],
    })
    expect([interestId, tagId].every(one => one > 0)).toBe(true)
  })

  it('reads its condition when it acts: a later rule of the same event sees what an earlier one did', async () => {
    const { context, pageId } = await furnish(openContext())
    const [a, b, c] = ['a', 'b', 'c'].map(name => saveTag(context, null, tag(name)))
    await rule(context, { kind: 'opted-in', thingId: pageId }, [gives(a!)])
    await rule(context, { kind: 'opted-in', thingId: pageId }, [gives(b!)], { who: only(has(a!)) })
    await rule(context, { kind: 'opted-in', thingId: pageId }, [gives(c!)], { who: only({ kind: 'none', of: [has(a!)] }) })
    expect(marksOf(context, visit(context, 'p@example.com'))).toEqual(['a', 'b', 'sheet kit'])
  })

  it('sees at once whatever an earlier rule of the same event changed: that it acted, points, a list, a tag', async () => {
    const { context, pageId } = await furnish(openContext())
    const vip = saveTag(context, null, tag('vip'))
    const news = saveList(context, null, { name: 'news', publicName: 'News', description: '' })
    // Each asks for everything before the first has acted, so that all of it has been read.
    const parts: Condition[] = [
      { kind: 'rule-acted', ruleId: 1, within: null }, { kind: 'score', atLeast: 30 }, { kind: 'list', listId: news, is: 'joined' },
      has(vip),
    ]
    const all = (of: Condition[]): Condition => only({ kind: 'none', of: parts.filter(part => !of.includes(part)) }, ...of)
    const then: Action[][] = [
      [{ kind: 'notice', text: 'came', email: 'no' }], [{ kind: 'score', points: 30 }], [{ kind: 'join-list', listId: news }], [gives(vip)],
    ]
    const ids: number[] = []
    for (const actions of then) ids.push(await rule(context, { kind: 'opted-in', thingId: pageId }, actions))
    expect(ids[0]).toBe(1)
    for (const [n, one] of ids.entries()) {
      await saveRule(context, one, { ...newRule({ kind: 'opted-in', thingId: pageId }, then[n]), who: all(parts.slice(0, n)) })
    }
    visit(context, 'p@example.com')
    expect(ids.map(one => firingsOfRule(context.db, one, 9).map(({ did }) => did[0]!.outcome))).toEqual([
      ['told'], ['scored'], ['put-on'], ['given'],
    ])
  })

  it('acts once per person, at most every so many days, or each time; off it does nothing, and deleted nothing either', async () => {
    const { context } = await furnish(openContext())
    const [bell, once, rare] = ['bell', 'once', 'rare'].map(name => saveTag(context, null, tag(name)))
    await rule(context, { kind: 'got-tag', thingId: bell! }, [gives(once!)], { often: { kind: 'once' } })
    await rule(context, { kind: 'got-tag', thingId: bell! }, [gives(rare!)], { often: { kind: 'every', days: 3 } })
    const each = await rule(context, { kind: 'got-tag', thingId: bell! }, [{ kind: 'score', points: 1 }])
    const id = visit(context, 'p@example.com')
    const ring = async (day: number) => {
      await moveTo(context, thursdayNoon + day * DAY)
      for (const tagId of [once!, rare!, bell!]) takeTagByHand(context, id, tagId)
      giveTagByHand(context, id, bell!)
      return marksOf(context, id).filter(name => name !== 'sheet kit')
    }
    expect([await ring(0), await ring(2), await ring(3)]).toEqual([['bell', 'once', 'rare'], ['bell'], ['bell', 'rare']])
    await switchRule(context, each, false)
    await ring(7)
    expect(firingsOfRule(context.db, each, 9)).toHaveLength(3)
    await switchRule(context, each, true)
    removeRule(context, each)
    await ring(8)
    expect(ruleLines(context).some(line => line.id === each)).toBe(false)
    expect(kinds(context, id).filter(kind => kind === 'got-tag').length).toBeGreaterThan(8)
  })

  it('never brings back who left, nor into a list they left themselves', async () => {
    const { context, listId, pageId } = await furnish(openContext())
    const bell = saveTag(context, null, tag('bell'))
    await rule(context, { kind: 'got-tag', thingId: bell }, [{ kind: 'status', to: 'active' }, { kind: 'join-list', listId }])
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'list', listId })
    giveTagByHand(context, id, bell)
    expect(findMembership(context.db, listId, id)!.leftAt).not.toBeNull()
    leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'everything' })
    takeTagByHand(context, id, bell)
    giveTagByHand(context, id, bell)
    expect(findPerson(context.db, id)!.status).toBe('unsubscribed')
    expect(pageId).toBeGreaterThan(0)
  })

  it('sends one email for one event, by its list, and not to who left meanwhile', async () => {
    const { context, listId, courseId } = await furnish(openContext())
    const bell = saveTag(context, null, tag('bell'))
    const id = await rule(
      context, { kind: 'got-tag', thingId: bell }, [{ kind: 'email', listId, content: email('hello again'), messageId: null }],
    )
    // Another that asks for emails of the first, whatever else they are sent; and one that asks for a course's.
    const gotIt = saveTag(context, null, tag('got it'))
    const gotStep = saveTag(context, null, tag('got two'))
    await rule(context, { kind: 'sent', thingId: null, which: { kind: 'rule', ownerId: id, itemId: null } }, [gives(gotIt)])
    await rule(context, { kind: 'sent', thingId: null, which: { kind: 'course', ownerId: courseId, itemId: 'two' } }, [gives(gotStep)])
    const [stays, goes] = [visit(context, 's@example.com'), visit(context, 'g@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    expect(marksOf(context, stays)).toEqual(['sheet kit'])
    for (const one of [stays, goes]) giveTagByHand(context, one, bell)
    leave(context, emailsOfPerson(context.db, goes).find(mail => mail.status === 'handed over')!.id, { what: 'everything' })
    await moveTo(context, thursdayNoon + 2 * HOUR)
    const sent = (one: number) => emailsOfPerson(context.db, one).filter(mail => mail.kind === 'rule')
      .map(mail => [mail.status, nameOfSend(context.db, mail).of, mail.workingTitle])
    expect([sent(stays), sent(goes)]).toEqual([
      [['handed over', 'a house rule', 'hello again']], [['withdrawn', 'a house rule', 'hello again']],
    ])
    expect(
      eventsOfPerson(context.db, stays).filter(event => event.kind === 'sent').map(sayEvent),
    ).toContain('was sent “hello again”, by a house rule')
    expect(firingsOfRule(context.db, id, 9)).toHaveLength(2)
    expect([marksOf(context, stays), marksOf(context, goes)]).toEqual([['bell', 'got it', 'sheet kit'], ['bell', 'sheet kit']])
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(marksOf(context, stays)).toEqual(['bell', 'got it', 'got two', 'sheet kit'])
    const tried = async (kind: 'file' | 'rule') => (await tryRules(context, {
      personId: goes, when: { kind: 'opened', thingId: null, which: { kind, ownerId: 1, itemId: null } }, draft: null,
    })).nothing
    expect(await tried('file')).toBe('They have not been sent such an email. Try it with someone who has.')
    expect(await tried('rule')).toBe('They have not been sent such an email. Try it with someone who has.')
  })

  it('stands still where something it names is deleted, and Today says so; a short form goes with its tag', async () => {
    const { context } = await furnish(openContext())
    const [bell, a] = [saveTag(context, null, tag('bell')), saveTag(context, null, tag('a'))]
    const short = saveTag(context, null, tag('short', { follows: { gives: [a], takes: [], drops: [] } }))
    const id = await rule(context, {
      kind: 'got-tag', thingId: bell,
    }, [gives(a), { kind: 'score', points: 3 }], { often: { kind: 'once' } })
    const person = visit(context, 'p@example.com')
    deleteTag(context, a, 0)
    giveTagByHand(context, person, bell)
    expect([ruleLines(context).map(line => [line.id, line.missing]), firingsOfRule(context.db, id, 9)]).toEqual([[[id, ['tag']]], []])
    expect(todayView(context).needsAttention).toContainEqual(
      expect.objectContaining({ title: 'A house rule does not work', to: `/house-rules/${id}` }),
    )
    await expect(switchRule(context, id, true)).rejects.toThrow(NotNow)
    expect(short).toBeGreaterThan(0)
  })

  it('says at its part what is wrong, and keeps nothing', async () => {
    const { context } = await furnish(openContext())
    const birthday = saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    const books = saveField(context, null, { name: 'books', label: '', kind: 'number', choices: [] })
    const wrong = async (input: RuleInput) => saveRule(context, null, input).then(() =>
      [], (error: InputProblem) => error.problems.map(({ field, problem }) => `${field}: ${problem}`))
    expect(await wrong(newRule({ kind: 'got-tag', thingId: null }))).toEqual([
      'when: Choose which tag.', 'then: Choose at least one action.',
    ])
    expect(await wrong({ ...newRule({ kind: 'date-arrived', thingId: books }, [
      gives(99), { kind: 'set-field', fieldId: birthday, value: 'soon' }, { kind: 'set-field', fieldId: books, value: null, today: true },
      { kind: 'score', points: 0 }, { kind: 'todo', text: '  ', days: 1, helper: '' },
      { kind: 'email', listId: 1, content: email('x', { subject: [] }), messageId: null },
    ]), who: only(has(77)) })).toEqual([
      'when: Only a date field reaches a day.',
      'who: A condition asks for a tag that does not exist (any more). Choose another.',
      'then.0: This tag no longer exists. Choose another.', 'then.1: This does not fit birthday.',
      'then.2: Only a date field can be set to that day.', 'then.3: Enter a number of points other than 0.',
      'then.4: Type a few words.', 'then.5: The email needs a subject and some text.',
    ])
    expect(ruleLines(context)).toEqual([])
  })
})

describe('what time brings', () => {
  it('silence: from the day on which it is reached, once for each silence, and not for who was silent before the rule', async () => {
    const { context } = await furnish(openContext())
    const quiet = saveTag(context, null, tag('quiet'))
    const before = visit(context, 'before@example.com')
    await moveTo(context, thursdayNoon + 40 * DAY)
    await rule(context, { kind: 'became-silent', thingId: null, days: 30 }, [gives(quiet)])
    const [reader, sleeper] = [visit(context, 'reader@example.com'), visit(context, 'sleeper@example.com')]
    await moveTo(context, thursdayNoon + 41 * DAY)
    recordClick(context, emailsOfPerson(context.db, reader).at(-1)!.id, 0, { agent: '', robot: false, certain: true })
    await moveTo(context, thursdayNoon + 70 * DAY)
    expect([before, reader, sleeper].map(id => hasTag(context.db, quiet, id))).toEqual([false, false, false])
    await moveTo(context, thursdayNoon + 70 * DAY + 1)
    expect([before, reader, sleeper].map(id => hasTag(context.db, quiet, id))).toEqual([false, false, true])
    await moveTo(context, thursdayNoon + 71 * DAY + 1)
    expect([before, reader, sleeper].map(id => hasTag(context.db, quiet, id))).toEqual([false, true, true])
    const told = eventsOfPerson(context.db, sleeper).find(event => event.kind === 'became-silent')!
    expect([sayEvent(told), told.at]).toEqual(['has not opened or clicked anything for 30 days', thursdayNoon + 70 * DAY + 1])
  })

  it('a date: so many days before it, every year, on 28 February in common years; the day begins in the workspace’s zone', async () => {
    const { context } = await furnish(openContext())
    const birthday = saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    await rule(context, { kind: 'date-arrived', thingId: birthday, days: 0, yearly: true }, [{ kind: 'score', points: 1 }])
    await rule(context, { kind: 'date-arrived', thingId: birthday, days: -2 }, [{ kind: 'score', points: 1 }])
    const [leap, once] = [visit(context, 'leap@example.com'), visit(context, 'once@example.com')]
    transact(context, () => {
      setField(context.db, leap, birthday, '2000-02-29', { at: context.clock.now(), causeId: null, ownAct: false })
      setField(context.db, once, birthday, '2026-12-03', { at: context.clock.now(), causeId: null, ownAct: false })
    })
    await moveTo(context, thursdayNoon + 900 * DAY)
    const days = (id: number) => eventsOfPerson(context.db, id).reverse().filter(event => event.kind === 'date-arrived')
      .map(event => [new Date(event.at).toISOString(), sayEvent(event)])
    expect(days(leap)).toEqual([
      ['2027-02-28T00:00:00.000Z', 'reached “birthday”'], ['2028-02-29T00:00:00.000Z', 'reached “birthday”'],
      ['2029-02-28T00:00:00.000Z', 'reached “birthday”'],
    ])
    expect(days(once)).toEqual([
      ['2026-12-01T00:00:00.000Z', 'reached the day 2 days before “birthday”'],
      ['2026-12-03T00:00:00.000Z', 'reached “birthday”'], ['2027-12-03T00:00:00.000Z', 'reached “birthday”'],
      ['2028-12-03T00:00:00.000Z', 'reached “birthday”'],
    ])
  })
})

describe('rules that wake rules', () => {
  it('go in a circle only if that is wanted, with the path shown; and then end after one round, which stands in the history', async () => {
    const { context } = await furnish(openContext())
    const [a, b] = [saveTag(context, null, tag('a')), saveTag(context, null, tag('b'))]
    const first = await rule(context, { kind: 'got-tag', thingId: a }, [{ kind: 'take-tag', tagId: b }, gives(b)])
    expect(await saveRule(context, null, { ...newRule(
      { kind: 'got-tag', thingId: b },
      [{ kind: 'score', points: 1 }, { kind: 'leave-list', listId: 1 }, { kind: 'take-tag', tagId: a }, gives(a)],
    ) })).toEqual({ saved: false, circle: expect.stringContaining(
      'when someone gets the tag “b”: add 1 point to their score, remove them from the list “letters”, remove the tag “a” and add the tag “a”; then, as someone gets the tag “a”: ',
    ) })
    expect(ruleLines(context)).toHaveLength(1)
    const second = await rule(context, { kind: 'got-tag', thingId: b }, [{ kind: 'take-tag', tagId: a }, gives(a)], {}, true)
    const person = visit(context, 'p@example.com')
    giveTagByHand(context, person, a)
    expect([first, second].map(id => firingsOfRule(context.db, id, 9).length)).toEqual([1, 1])
    expect(kinds(context, person).filter(kind => kind === 'rules-cut')).toEqual(['rules-cut'])
    const [firing] = firingsOfRule(context.db, second, 1)
    expect(chainOf(context, firing!.id).lines.map(line =>
      `${'  '.repeat(line.level)}${line.kind === 'event' ? line.says : `${line.verdict}: ${line.did.join(', ')}`}`)).toEqual([
      'got the tag “a”, by hand',
      '  acts: remove the tag “b” (nothing changes: they do not have it), add the tag “b”',
      '    got the tag “b”, by a house rule',
      '      acts: remove the tag “a”, add the tag “a”',
      '        lost the tag “a”, by a house rule',
      '        got the tag “a”, by a house rule',
    ])
    // The next time is another beginning.
    takeTagByHand(context, person, b)
    giveTagByHand(context, person, b)
    expect([first, second].map(id => firingsOfRule(context.db, id, 9).length)).toEqual([2, 2])
  })

  it('end also where they feed each other through a segment, which is looked at a moment later', async () => {
    const { context } = await furnish(openContext())
    const a = saveTag(context, null, tag('a'))
    const inside = saveSegment(context, null, { name: 'has a', note: '', condition: only(has(a)) })
    await moveTo(context, thursdayNoon + 1)
    await rule(context, { kind: 'entered-segment', thingId: inside }, [{ kind: 'take-tag', tagId: a }], {}, true)
    await rule(context, { kind: 'left-segment', thingId: inside }, [gives(a)], {}, true)
    const person = visit(context, 'p@example.com')
    giveTagByHand(context, person, a)
    await moveTo(context, thursdayNoon + HOUR)
    expect(kinds(context, person).filter(kind => kind.endsWith('-segment') || kind === 'rules-cut').slice(-4)).toEqual([
      'entered-segment', 'left-segment', 'entered-segment', 'rules-cut',
    ])
  })

  it('are cut off twenty deep, and say so', async () => {
    const { context } = await furnish(openContext())
    const tags = Array.from({ length: 24 }, (_, n) => saveTag(context, null, tag(`t${n}`)))
    for (const [n, id] of tags.slice(0, -1).entries()) await rule(context, { kind: 'got-tag', thingId: id }, [gives(tags[n + 1]!)])
    const person = visit(context, 'p@example.com')
    giveTagByHand(context, person, tags[0]!)
    expect(marksOf(context, person)).toHaveLength(1 + 21)
    expect(eventsOfPerson(context.db, person).filter(event => event.kind === 'rules-cut').map(sayEvent)).toEqual([
      'reached the limit of twenty house rules in a row, so no more follow',
    ])
  })
})

describe('trying', () => {
  it('shows what would come of it, in its order, and changes nothing at all', async () => {
    const { context } = await furnish(openContext())
    const [a, b, c] = ['a', 'b', 'c'].map(name => saveTag(context, null, tag(name)))
    await rule(context, { kind: 'got-tag', thingId: a! }, [gives(b!)])
    await rule(context, { kind: 'got-tag', thingId: b! }, [gives(c!)], { who: only({ kind: 'status', is: ['bounced'] }) })
    const person = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const before = rowsOf(context.db)
    const tried = await tryRules(context, { personId: person, when: { kind: 'got-tag', thingId: a! }, draft: { id: null, rule: newRule(
      { kind: 'got-tag', thingId: b! },
      [{ kind: 'take-tag', tagId: a! }, { kind: 'email', listId: 1, content: email('draft'), messageId: null }],
    ) } })
    expect(
      tried.lines.map(line => `${'  '.repeat(line.level)}${line.kind === 'event' ? line.says : `${line.verdict}: ${line.did.join(', ')}`}`),
    ).toEqual([
      'got the tag “a”, by hand',
      '  acts: add the tag “b”',
      '    got the tag “b”, by a house rule',
      '      does-not-fit: ',
      '      acts: remove the tag “a”, send them “draft”',
      '        lost the tag “a”, by a house rule',
    ])
    expect(rowsOf(context.db)).toEqual(before)
    giveTagByHand(context, person, a!)
    expect((await tryRules(context, { personId: person, when: { kind: 'got-tag', thingId: a! }, draft: null })).nothing).toBe(
      'They already have this tag, so they would not get it.',
    )
  })

  it('plays every kind of event, and each is what it would be really', async () => {
    const { context, pageId, listId, tagId, courseId } = await furnish(openContext())
    const person = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const before = rowsOf(context.db)
    const happens: Trigger[] = [
      { kind: 'opted-in', thingId: pageId }, { kind: 'confirmed', thingId: null }, { kind: 'left-list', thingId: listId },
      { kind: 'lost-tag', thingId: tagId }, { kind: 'clicked', thingId: 1 }, 
      { kind: 'sent', thingId: null, which: { kind: 'course', ownerId: courseId, itemId: 'two' } },
      { kind: 'opened', thingId: null }, { kind: 'became-silent', thingId: null, days: 9 },
      { kind: 'reached-score', thingId: null, points: 3 }, { kind: 'bounced', thingId: null },
      { kind: 'finished-course', thingId: courseId },
    ]
    for (const when of happens) {
      const tried = await tryRules(context, {
        personId: person, when, draft: { id: null, rule: newRule(when, [{ kind: 'notice', text: 'x', email: 'no' }]) },
      })
      expect(tried.lines.filter(line => line.kind === 'rule' && line.verdict === 'acts'), when.kind).toHaveLength(1)
      expect(tried.lines.map(({ says }) => says).join('; '), when.kind).not.toMatch(/null|undefined|When [^s]\w* /)
    }
    expect(rowsOf(context.db)).toEqual(before)
  })
})

describe('people who fit already', () => {
  it('are counted, and the rule acts on them as a task, each once; another number asks once more', async () => {
    const { context, tagId } = await furnish(openContext())
    const vip = saveTag(context, null, tag('vip'))
    const people = ['a', 'b', 'c', 'd'].map(name => visit(context, `${name}@example.com`))
    const id = await rule(context, { kind: 'got-tag', thingId: tagId }, [gives(vip)], { often: { kind: 'once' } })
    visit(context, 'e@example.com')
    takeTagByHand(context, people[3]!, tagId)
    expect(ruleView(context, id).fits).toMatchObject({ people: 4, says: expect.stringContaining('tagged “sheet kit”') })
    expect(() => runRule(context, id, 5)).toThrow(NotNow)
    runRule(context, id, 4)
    await moveTo(context, thursdayNoon + HOUR)
    expect(people.map(one => hasTag(context.db, vip, one))).toEqual([true, true, true, false])
    expect(firingsOfRule(context.db, id, 9)).toHaveLength(4)
  })
})

it('the same story in one move as in many', async () => {
  const crowd = async () => {
    const { context, pageId, courseId } = await furnish(openContext())
    const [a, b] = [saveTag(context, null, tag('a', { expiry: { kind: 'after', days: 2 } })), saveTag(context, null, tag('b'))]
    await rule(context, { kind: 'opted-in', thingId: pageId }, [gives(a)])
    await rule(context, { kind: 'lost-tag', thingId: a, expired: true }, [gives(b), { kind: 'score', points: 4 }])
    await rule(
      context, { kind: 'finished-course', thingId: courseId },
      [{ kind: 'take-tag', tagId: b }, { kind: 'email', listId: 1, content: email('after'), messageId: null }],
    )
    await rule(context, { kind: 'became-silent', thingId: null, days: 5 }, [{ kind: 'notice', text: 'quiet', email: 'no' }])
    for (let n = 0; n < 9; n++) visit(context, `p${n}@example.com`)
    return context
  }
  const [once, often] = [await crowd(), await crowd()]
  await moveTo(once, thursdayNoon + 9 * DAY)
  for (let hours = 5; hours <= 9 * 24; hours += 5) await moveTo(often, thursdayNoon + hours * HOUR)
  await moveTo(often, thursdayNoon + 9 * DAY)
  expect(wholeStory(once.db).filter(({ kind }) => kind === 'noticed')).toHaveLength(9)
  expect(wholeStory(often.db)).toEqual(wholeStory(once.db))
})
