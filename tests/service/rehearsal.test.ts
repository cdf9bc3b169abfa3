/** Rehearsals: the real engine on a copy, an invented reader, a dated story; and nothing of it in the workspace. */
import { describe, expect, it } from 'vitest'
import type { CourseDraft, DraftStep } from '#core/sequence/draft'
import { differences, readyReaders, type RehearsedReader, type StoryLine } from '#core/sequence/rehearsal'
import { newOffer } from '#core/offers/offer'
import { localOf } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { eventsOfPerson } from '#data/events'
import { setSendingLimits } from '#data/limits'
import { emailsOfPerson } from '#data/outbox'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import { publishChanges, startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { newRule } from '#core/rules/rule'
import { saveField } from '#usecases/know/fields'
import { saveRule } from '#usecases/know/rules'
import { saveSendingHours } from '#usecases/settings/hours'
import { inventReader } from '#usecases/practice/inventReader'
import { checkKept, forgetRehearsal, keepRehearsal, rehearse } from '#usecases/practice/rehearse'
import { recordClick } from '#usecases/reading/click'
import { rowsOf } from './dump'
import { openShop } from './shop'
import { temporaryFolder } from '../temporary'
import { DAY, email, furnish, moveTo, openContext, step, thursdayNoon, visit, type Setting } from './workshop'

const sandbox = rehearsalSandbox({
  port: 3000, data: temporaryFolder(), password: null, baseUrl: 'http://localhost:3000', smtpUrl: null, host: '127.0.0.1', proxies: 0,
}, { session: '', signing: Buffer.from('a signing key for tests only, 32') })
const base = (id: string) => ({ id, when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const })
const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })
const asking = step('one', { kind: 'at-once' }, email('one', { body: { type: 'doc', content: [
  { type: 'button', attrs: { label: 'coptic', url: 'https://saltmarsh.example.com/coptic', tagId: null } },
] } }))
const held: DraftStep[] = [asking, {
  ...base('h'), kind: 'hold', until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'one' } },
  atMost: { count: 24, unit: 'hours' }, did: [step('yes', hours(1))], didNot: [step('again', hours(2))],
}, step('last', hours(24))]
const [keen, silent] = readyReaders({ date: '2026-12-01', time: '10:00' }, null, null) as [RehearsedReader, RehearsedReader]

const said = (at: number) => Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const mails = (lines: StoryLine[]) => lines.filter(({ sort }) => sort === 'mail').map(({ at, stepId }) => `${stepId} ${said(at)}`)
const change = (setting: Setting, more: Partial<CourseDraft>) =>
  saveCourse(setting.context, setting.courseId, 'Fold, Sew, Cover', { ...findCourse(setting.context.db, setting.courseId)!.draft, ...more })
const run = async (setting: Setting, ...readers: RehearsedReader[]) =>
  (await rehearse(setting.context, { courseId: setting.courseId, readers }, sandbox)).stories

describe('a rehearsal', () => {
  it('tells what the engine does: by the click one way, without it the other, at the very times at which it really happens', async () => {
    const setting = await furnish(openContext(), () => held)
    const [one, other] = await run(setting, keen, silent)
    // The keen one opens after two hours and follows five minutes later.
    expect(mails(one!.lines)).toEqual(['one 2026-12-01 10:00', 'yes 2026-12-01 13:05', 'last 2026-12-02 13:05'])
    expect(mails(other!.lines)).toEqual(['one 2026-12-01 10:00', 'again 2026-12-02 12:00', 'last 2026-12-03 12:00'])
    expect(one!.lines.map(({ says }) => says)).toEqual(expect.arrayContaining([
      'opted in on “Sheet kit”', 'is waiting in “Fold, Sew, Cover” for something to happen', 'opened “one”',
      'clicked “coptic” in the email “one”',
      'finished “Fold, Sew, Cover”',
    ]))

    const { context } = setting
    await moveTo(context, Date.UTC(2026, 11, 1, 10))
    const real = visit(context, 'real@example.com')
    await moveTo(context, Date.UTC(2026, 11, 1, 12, 5))
    recordClick(context, emailsOfPerson(context.db, real)[0]!.id, 0, { agent: 'A browser', robot: false, certain: false })
    await moveTo(context, Date.UTC(2026, 11, 30))
    expect(emailsOfPerson(context.db, real).reverse().map(row => `${row.itemId} ${said(row.handedOverAt!)}`)).toEqual(mails(one!.lines))
    const engine = eventsOfPerson(context.db, real).reverse().filter(({ kind }) =>
      ['began-hold', 'took-way', 'finished-course', 'enrolled'].includes(kind)).map(({ kind, at }) => `${kind} ${said(at)}`)
    expect(one!.lines.filter(({ kind }) => ['began-hold', 'took-way', 'finished-course', 'enrolled'].includes(kind))
      .map(({ kind, at }) => `${kind} ${said(at)}`)).toEqual(engine)
  })

  it('leaves nothing in the workspace', async () => {
    const setting = await furnish(openContext(), () => held)
    const before = JSON.stringify(rowsOf(setting.context.db))
    change(setting, { steps: [...held, step('more', hours(5))] })
    const between = JSON.stringify(rowsOf(setting.context.db))
    expect(before).not.toBe(between)
    await run(setting, keen, silent)
    expect(JSON.stringify(rowsOf(setting.context.db))).toBe(between)
  })

  it('plays the draft, also of a course that was never started; and says what is missing', async () => {
    const setting = await furnish(openContext(), () => held)
    change(setting, { steps: [asking, step('new', hours(3))] })
    expect(mails((await run(setting, silent))[0]!.lines)).toEqual(['one 2026-12-01 10:00', 'new 2026-12-01 13:00'])
    const id = createCourse(setting.context, 'Never started', 'x')
    await expect(rehearse(setting.context, { courseId: id, readers: [silent] }, sandbox)).rejects.toThrow(
      /Choose the list[\s\S]*Write the first email/,
    )
    saveCourse(setting.context, id, 'Never started', {
      listId: setting.listId, wayInTagIds: [], again: 'once', steps: [step('x', hours(1))],
    })
    expect(mails((await rehearse(setting.context, { courseId: id, readers: [silent] }, sandbox)).stories[0]!.lines)).toEqual([
      'x 2026-12-01 11:00',
    ])
    expect(findCourse(setting.context.db, id)!.status).toBe('draft')
  })

  it('goes across courses, rules and lists, with what was held back and why', async () => {
    const setting = await furnish(openContext(), () => [asking, step('two', hours(30))])
    const { context, interestId, listId } = setting
    const next = createCourse(context, 'Next', 'n')
    saveCourse(context, next, 'Next', { listId, wayInTagIds: [interestId], again: 'once', steps: [step('n', hours(1))] })
    await startCourse(context, next)
    await saveRule(
      context, null,
      newRule({ kind: 'clicked', thingId: null }, [{ kind: 'give-tag', tagId: interestId }, { kind: 'notice', text: 'warm', email: 'no' }]),
    )
    await openShop(setting, { gives: { ...newOffer().gives, listIds: [listId], endsCourseIds: [setting.courseId] } })
    const [story, leaver] = await run(setting, { ...keen, buys: { offerId: 1, day: 1, time: '09:00' } }, { ...keen, leaves: { day: 0 } })
    const says = story!.lines.map(({ says }) => says)
    expect(says).toEqual(expect.arrayContaining([
      'got the tag “interest: coptic”, by a house rule', 'joined the course “Next”', 'was sent “n”',
      'bought “Long-Stitch Journals” for €49.00',
      'left the course “Fold, Sew, Cover” because of a purchase',
    ]))
    expect(mails(story!.lines)).toEqual(['one 2026-12-01 10:00', 'n 2026-12-01 13:05', 'receipt 2026-12-02 09:00'])
    expect(leaver!.lines.map(({ says }) => says)).toContain('unsubscribed from everything')
    expect(mails(leaver!.lines).at(-1)).toBe('n 2026-12-01 13:05')
    // Of the workspace nothing was bought and nobody told.
    expect(context.db.prepare('SELECT count(*) FROM purchases').pluck().get()).toBe(0)
  })

  it('what cannot be bought that day is a line of the story', async () => {
    const setting = await furnish(openContext(), () => [asking])
    await openShop(setting, { closesAt: Date.UTC(2026, 11, 2) })
    const [story] = await run(setting, { ...silent, buys: { offerId: 1, day: 3, time: '09:00' } })
    expect(story!.lines.find(({ kind }) => kind === 'payment-refused')?.says).toMatch(/^could not buy Long-Stitch Journals: /)
  })

  it('knows who comes in by a date, and what a zone makes of it', async () => {
    const setting = await furnish(openContext(), () => [asking])
    const fieldId = saveField(setting.context, null, { name: 'birthday', label: 'Birthday', kind: 'date', choices: [] })
    change(setting, {
      dates: { fieldId, everyMonths: 12 },
      steps: [{ ...step('a', { kind: 'date-field', fieldId, days: -7, time: '09:00', everyMonths: 0 }), zone: 'subscriber' }],
    })
    const [story] = await run(setting, { ...silent, zone: 'Asia/Kathmandu', dates: { [fieldId]: '1990-12-20' } })
    expect(mails(story!.lines)).toEqual(['a 2026-12-13 03:15'])
  })

  it('keeps the workspace’s hours and limits, and says what looks wrong', async () => {
    const setting = await furnish(openContext(), () =>
      [asking, step('two', hours(3)), step('three', hours(24), email('three'), { ignoresHours: true }), step('four', hours(60))])
    const { context } = setting
    saveSendingHours(context, ('0'.repeat(16) + '1'.repeat(16) + '0'.repeat(16)).repeat(7))
    setSendingLimits(context.db, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    const [story] = await run(setting, { ...silent, joins: { date: '2026-12-03', time: '22:00' } })
    expect(mails(story!.lines)).toEqual(['one 2026-12-03 22:00', 'two 2026-12-04 08:00', 'three 2026-12-05 08:00', 'four 2026-12-08 08:00'])
    expect(story!.warnings.map(({ kind, stepId }) => `${kind} ${stepId}`)).toEqual(['outside-hours one', 'weekend three'])
    setSendingLimits(context.db, { gapMinutes: 0, aDay: null, aWeek: null, tooMany: 'wait' })
    const [close] = await run(setting, { ...silent, joins: { date: '2026-12-03', time: '10:00' } })
    expect(close!.warnings[0]).toMatchObject({ kind: 'close', stepId: 'two' })
  })

  it('finds steps that nobody can come to', async () => {
    const setting = await furnish(openContext(), () => [asking, { ...base('e'), kind: 'end' }, step('never', hours(1))])
    expect((await rehearse(setting.context, { courseId: setting.courseId, readers: [silent] }, sandbox)).unreachable).toEqual(['never'])
  })
})

describe('a kept rehearsal', () => {
  it('is played anew, and says whether it is still true, and what is not', async () => {
    const setting = await furnish(openContext(), () => held)
    const { context, courseId } = setting
    const [one, other] = await run(setting, keen, silent)
    const id = keepRehearsal(context, courseId, keen, one!.lines)
    keepRehearsal(context, courseId, silent, other!.lines)
    expect((await checkKept(context, courseId, sandbox)).map(({ outcome }) => outcome.kind)).toEqual(['same', 'same'])
    // A version of ours that tells it in other words finds no difference; what was kept before that was known is compared by its step.
    const reworded = (lines: StoryLine[]) => lines.map(line => ({ ...line, says: `once: ${line.says}` }))
    keepRehearsal(context, courseId, keen, reworded(one!.lines))
    keepRehearsal(context, courseId, silent, reworded(other!.lines).map(({ about: _, ...line }) => line))
    expect((await checkKept(context, courseId, sandbox)).map(({ outcome }) => outcome.kind)).toEqual(['same', 'same'])
    const otherTag = one!.lines.map(line => line.kind === 'got-tag' ? { ...line, about: line.about!.replace(/[a-z]/, 'X') } : line)
    expect(differences(otherTag, one!.lines).fresh.map(({ kind }) => kind)).toEqual(
      one!.lines.filter(({ kind }) => kind === 'got-tag').map(({ kind }) => kind),
    )
    keepRehearsal(context, courseId, keen, one!.lines)
    keepRehearsal(context, courseId, silent, other!.lines)
    // People come and read meanwhile, and the clock goes on: that changes nothing of it.
    inventReader(context, visit(context, 'p@example.com'), 90)
    await moveTo(context, thursdayNoon + 20 * DAY)
    expect((await checkKept(context, courseId, sandbox)).map(({ outcome }) => outcome.kind)).toEqual(['same', 'same'])
    change(setting, { steps: held.map(one => one.id === 'h' && one.kind === 'hold' ? { ...one, didNot: [step('again', hours(5))] } : one) })
    const [still, differs] = await checkKept(context, courseId, sandbox)
    expect(still!.outcome.kind).toBe('same')
    expect(differs!.outcome).toMatchObject({
      kind: 'differs', gone: expect.arrayContaining([expect.objectContaining({ stepId: 'again', sort: 'mail' })]),
      fresh: expect.arrayContaining([expect.objectContaining({ stepId: 'again', sort: 'mail' })]),
    })
    await publishChanges(context, courseId)
    // The same reader kept anew takes the place of the old one.
    keepRehearsal(context, courseId, silent, (await run(setting, silent))[0]!.lines)
    expect((await checkKept(context, courseId, sandbox)).map(({ outcome }) => outcome.kind)).toEqual(['same', 'same'])
    change(setting, { listId: null })
    expect((await checkKept(context, courseId, sandbox)).map(({ outcome }) => outcome.kind)).toEqual(['cannot', 'cannot'])
    forgetRehearsal(context, courseId, id)
    expect(() => forgetRehearsal(context, courseId, id)).toThrow(/rehearsal no longer exists/)
  })
})
