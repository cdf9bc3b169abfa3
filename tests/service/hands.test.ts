/** What broke in the hands of a new user; the numbers are those of the list of what broke. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { ON_NO_LIST, READY_SEGMENTS } from '#core/audience/segment'
import { standingConditions, STANDING_REASONS } from '#core/audience/heldBack'
import { mentionsIn, replacedIn } from '#core/mentions'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { newRule } from '#core/rules/rule'
import type { ThingKind } from '#core/things'
import { newReading } from '#core/hooks/reading'
import type { SavedRule } from '#core/views/rules'
import type { RuleNames } from '#core/rules/say'
import { readyReaders, type RehearsedReader } from '#core/sequence/rehearsal'
import { sayHeldBack, type HeldBackReason } from '#core/sending/reasons'
import { sayEvent } from '#core/events'
import { eventsOfPerson } from '#data/events'
import { hands } from '#data/migrations/018-hands'
import { findPersonByKey } from '#data/people'
import { membership } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { courseDraft } from '#server/courseSchemas'
import { offerInput } from '#server/offerSchemas'
import { pageInput } from '#server/pageSchemas'
import { conditionShapes } from '#server/peopleSchemas'
import { linkInput, ruleInput } from '#server/ruleSchemas'
import { usesOf } from '#usecases/inner/uses'
import { deleteTag } from '#usecases/know/endMarks'
import { taskView } from '#usecases/know/doToMany'
import { erasePerson } from '#usecases/know/erase'
import { importView, receiveImport } from '#usecases/know/importFile'
import { beginImport, oddRowsCsv } from '#usecases/know/importPeople'
import { importPlan } from '#usecases/views/importPlan'
import { removeField, saveField } from '#usecases/know/fields'
import { removeHookIn, removeHookOut, saveHookIn, saveHookOut } from '#usecases/know/hooks'
import { removeLink, saveLink } from '#usecases/know/links'
import { replaceThing } from '#usecases/know/replaceThing'
import { saveRule } from '#usecases/know/rules'
import { removeSegment, saveSegment } from '#usecases/know/segments'
import { endingView } from '#usecases/views/ending'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import { choicesOf, choose, comeBack } from '#usecases/arrive/choices'
import { leave } from '#usecases/arrive/leave'
import { createPage, publishPage, removePage, savePage } from '#usecases/arrive/pages'
import { leadOntoList } from '#usecases/courses/ontoList'
import { publishChanges } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { giveTagByHand, joinListByHand, leaveListByHand } from '#usecases/know/byHand'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { endPurchase } from '#usecases/offers/end'
import { removeOffer } from '#usecases/offers/save'
import { pageLines } from '#usecases/views/pages'
import { saveCoupon } from '#usecases/offers/coupons'
import { rehearse } from '#usecases/practice/rehearse'
import { saveConsentRule } from '#usecases/settings/workspace'
import { audienceView } from '#usecases/views/audience'
import { courseView } from '#usecases/views/course'
import { listLines } from '#usecases/views/listsAndTags'
import { segmentLines } from '#usecases/views/segments'
import { offerLines, offerView } from '#usecases/views/offers'
import { pageView } from '#usecases/views/pages'
import { subscribersCount } from '#usecases/views/subscribers'
import { conditionOf, NOT_NARROWED } from '#usecases/inner/narrowing'
import { todayView } from '#usecases/views/today'
import { whyView } from '#usecases/views/why'
import { newStep, sayStep } from '../../app/courses/steps'
import { bought, buy, openShop, press } from './shop'
import { temporaryFolder } from '../temporary'
import { atOncePage, DAY, furnish, HOUR, moveTo, openContext, thursdayNoon, visit, type Setting } from './workshop'

const settings = {
  port: 3000, data: temporaryFolder(), password: null, baseUrl: 'http://localhost:3000', smtpUrl: null, host: '127.0.0.1', proxies: 0,
}
const sandbox = rehearsalSandbox(settings, { session: '', signing: Buffer.from('a signing key for tests only, 32') })
const [keen] = readyReaders({ date: '2026-12-01', time: '10:00' }, null, null) as [RehearsedReader]

describe('B1: a page that gives a course’s tag and puts people on another list', () => {
  /** The page gives the tag and joins “letters”; the course belongs to a second list, which takes nobody by itself. */
  async function astray(): Promise<Setting & { courseListId: number }> {
    const setting = await furnish(openContext())
    const { context, courseId } = setting
    const courseListId = saveList(context, null, { name: 'free course', publicName: 'The free course', description: '' })
    const { name, draft } = courseView(context, courseId)
    saveCourse(context, courseId, name, { ...draft, listId: courseListId })
    await publishChanges(context, courseId)
    return { ...setting, courseListId }
  }
  const fates = ({ context }: Setting, personId: number) => emailsOfPerson(context.db, personId).map(({
    status, reason,
  }) => [status, reason]).reverse()
  const told = async ({ context, courseId }: Setting, reader = keen) => (await rehearse(context, {
    courseId, readers: [reader],
  }, sandbox)).stories[0]!.lines.filter(({ sort }) => sort === 'mail' || sort === 'held').map(({ says }) => says)

  it('has a reason of its own, with the name of the list, wherever it is told', async () => {
    const setting = await astray()
    const { context, courseId } = setting
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(fates(setting, ada)).toEqual([['held back', 'not-on-list']])
    expect(eventsOfPerson(context.db, ada).map(event => sayEvent(event))).toContain('was not sent “one”: not on the list “free course”')
    expect(whyView(context, ada, { kind: 'course', ownerId: courseId, itemId: 'one' })[0]).toBe(
      'It was held back: not on the list “free course”.',
    )
    expect([
      sayHeldBack('not-on-list', null), sayHeldBack('owns-it', 'letters'), sayHeldBack(null, null),
    ]).toEqual(['not on the list', 'owns it', 'no reason recorded'])
  })

  it('is warned of on the page, at the course and on Today, and nowhere once it is mended', async () => {
    const setting = await astray()
    const { context, pageId, courseId, courseListId } = setting
    const note = { by: {
      kind: 'page', id: pageId, name: 'Sheet kit',
    }, course: { id: courseId, name: 'Fold, Sew, Cover' }, list: { id: courseListId, name: 'free course' } }
    const where = () => [
      pageView(context, pageId).astray, courseView(context, courseId).astray,
      todayView(context).needsAttention.filter(({ title }) => title.startsWith('People from')).map(({ to }) => to),
    ]
    expect(where()).toEqual([[note], [note], [`/courses/${courseId}?part=entries`]])
    expect(await leadOntoList(context, courseId, { kind: 'page', id: pageId })).toEqual({ published: true })
    expect(where()).toEqual([[], [], []])
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(fates(setting, ada)).toEqual([['handed over', null]])
  })

  it('is mended at the course for every way in; who left that list stays off it', async () => {
    const setting = await astray()
    const { context, courseId, courseListId, tagId } = setting
    expect(await leadOntoList(context, courseId, { kind: 'course', id: courseId })).toEqual({ published: true })
    expect(courseView(context, courseId).astray).toEqual([])
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect([membership(context.db, courseListId, ada), fates(setting, ada)]).toEqual(['joined', [['handed over', null]]])
    leave(context, emailsOfPerson(context.db, ada)[0]!.id, { what: 'list', listId: courseListId })
    context.db.prepare('DELETE FROM tag_holdings').run()
    giveTagByHand(context, ada, tagId)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect([membership(context.db, courseListId, ada), fates(setting, ada).at(-1)]).toEqual(['left', ['held back', 'left-list']])
  })

  it('publishes nothing that still waits to be published with it', async () => {
    const { context, pageId, courseId } = await astray()
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, thanks: { ...draft.thanks, headline: 'Not ready yet' } } })
    expect(await leadOntoList(context, courseId, { kind: 'page', id: pageId })).toEqual({ published: false })
    expect(pageView(context, pageId)).toMatchObject({ hasChanges: true, draft: { thanks: { headline: 'Not ready yet' } } })
  })

  it('is rehearsed as it is: the reader comes by the page, with its lists and tags, and confirms where it asks', async () => {
    const setting = await astray()
    const { context, pageId, courseId } = setting
    expect(await told(setting)).toEqual([
      'was not sent “one”: not on the list “free course”', 'was not sent “two”: not on the list “free course”',
      'was not sent “three”: not on the list “free course”',
    ])
    await leadOntoList(context, courseId, { kind: 'page', id: pageId })
    expect(await told(setting)).toEqual(['was sent “one”', 'was sent “two”', 'was sent “three”'])
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, confirming: { ...draft.confirming, who: 'everybody' } } })
    await publishPage(context, pageId)
    expect(await told(setting)).toEqual(expect.arrayContaining(['was sent “one”', 'was sent “two”', 'was sent “three”']))
    // Somebody who is on the list already: what a rule, a link or a hand would do.
    expect(await told(setting, { ...keen, by: null })).toEqual(['was sent “one”', 'was sent “two”', 'was sent “three”'])
    // Nothing of it stays in the workspace.
    expect(context.db.prepare('SELECT count(*) FROM people').pluck().get()).toBe(0)
  })

  it('is rehearsed by a page whose answers lead there, a draft too', async () => {
    const setting = await furnish(openContext())
    const { context, pageId, tagId, courseId } = setting
    context.db.prepare('UPDATE pages SET version_id = NULL WHERE id = ?').run(pageId)
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, tagIds: [], form: { ...draft.form, firstName: 'must', asks: [{
      id: 'q1', kind: 'choice', label: 'Which?', required: true, many: false,
      options: [{ id: 'o1', label: 'None', tagIds: [], fields: [] }, { id: 'o2', label: 'This', tagIds: [tagId], fields: [] }],
    }] } } })
    expect(await told({ ...setting, courseId })).toEqual(['was sent “one”', 'was sent “two”', 'was sent “three”'])
  })
})

describe('B1: why people of an audience could be sent nothing', () => {
  it('is told in numbers, each of which opens as many people, everybody under one of them', () => {
    const context = openContext()
    const add = context.db.prepare(`
      INSERT INTO people (address, address_key, status, country, created_at, consent_at, source)
        VALUES (@a, @a, @status, @country, 0, @consent, 'import')`)
    for (const status of ['active', 'resting', 'pending', 'unsubscribed', 'bounced', 'complained']) {
      for (const [country, consent, n] of [['DE', null, 1], ['DE', 5, 2], ['US', null, 3], [null, null, 4]] as const) {
        for (let i = 0; i < n; i++) add.run({ a: `${status}-${country}-${consent}-${i}@example.com`, status, country, consent })
      }
    }
    saveConsentRule(context, { countries: ['DE'], unknownNeeds: true })
    for (const condition of [{ kind: 'all', of: [] }, {
      kind: 'any', of: [{ kind: 'country', is: ['DE', 'US'], unknown: false }],
    }] satisfies Condition[]) {
      const { people, heldBack } = audienceView(context, { condition, segmentId: null })
      const opens = (why: HeldBackReason | 'nothing') => subscribersCount(context, {
        ...NOT_NARROWED, search: '', where: condition, heldBack: why,
      }).total
      expect(heldBack.map(({ reason }) => reason)).toEqual(STANDING_REASONS)
      expect(heldBack.map(({ reason }) => opens(reason))).toEqual(heldBack.map(one => one.people))
      expect(opens('nothing') + heldBack.reduce((sum, one) => sum + one.people, 0)).toBe(people)
    }
  })

  it('nests no deeper than the audience did, and stays in the two parts of the editor', () => {
    const tag = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })
    const never: Condition = { kind: 'none', of: [tag(2)] }
    const context = openContext()
    const narrowed = (where: Condition) => conditionOf(context, { ...NOT_NARROWED, where, heldBack: 'bounced' })
    const bounced = standingConditions('bounced')[0]!
    expect(narrowed({ kind: 'all', of: [{ kind: 'all', of: [tag(1)] }, never] })).toEqual({
      kind: 'all', of: [{ kind: 'all', of: [bounced, tag(1)] }, never],
    })
    expect(narrowed({ kind: 'all', of: [{ kind: 'any', of: [tag(1)] }, never] })).toEqual({
      kind: 'all', of: [bounced, { kind: 'any', of: [tag(1)] }, never],
    })
    expect(narrowed({ kind: 'any', of: [tag(1)] })).toEqual({ kind: 'all', of: [bounced, { kind: 'any', of: [tag(1)] }] })
  })
})

describe('B3: what leads into a course', () => {
  it('is found also where a page starts it directly, or by a list', async () => {
    const { context, courseId, listId } = await furnish(openContext())
    const straight = createPage(context, 'Straight in')
    savePage(context, straight, {
      name: 'Straight in', slug: 'straight-in', draft: { ...atOncePage('Straight in'), listIds: [listId], courseId },
    })
    await publishPage(context, straight)
    const other = saveList(context, null, { name: 'club', publicName: 'The club', description: '' })
    const { name, draft } = courseView(context, courseId)
    saveCourse(context, courseId, name, { ...draft, wayInListIds: [other] })
    await publishChanges(context, courseId)
    const byList = createPage(context, 'By the list')
    savePage(context, byList, {
      name: 'By the list', slug: 'by-the-list', draft: { ...atOncePage('By the list'), listIds: [listId, other] },
    })
    expect(courseView(context, courseId).entriesAndExits.in.filter(({ kind }) => kind === 'page').map(one => one.name).sort()).toEqual([
      'By the list', 'Sheet kit', 'Straight in',
    ])
    // B9: the page itself says so, too.
    expect([straight, byList].map(id => pageView(context, id).leadsTo.map(course => course.id))).toEqual([[courseId], [courseId]])
  })
})

describe('B4: deleting what something names', () => {
  const when = { kind: 'elapsed' as const, count: 1, unit: 'days' as const, from: 'previous' as const }
  const base = { when, ifPast: 'at-once' as const, zone: 'workspace' as const }
  const hasTag = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })

  /** One of each kind of thing that can be named, named in each kind of place. */
  async function everything() {
    const setting = await furnish(openContext())
    const { context, courseId, pageId, listId } = setting
    const { offerId } = await openShop(setting)
    const [asked, held, done, gone] = ['asked', 'held', 'done', 'other'].map(name => saveTag(context, null, {
      name, note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS, publicName: null,
    })) as [number, number, number, number]
    const fieldId = saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    const segmentId = saveSegment(context, null, { name: 'askers', note: '', condition: hasTag(asked) })
    const hookOut = saveHookOut(context, null, { name: 'outside', url: 'https://example.com/hook' })
    const hookIn = saveHookIn(context, null, { name: 'inside', reading: newReading() })
    const linkId = saveLink(context, null, {
      name: 'shop', url: 'https://example.com/shop', note: '', asks: false, does: [{ kind: 'give-tag', tagId: done }],
    })
    const { id: ruleId } = await saveRule(context, null, { ...newRule({ kind: 'hook-called', thingId: hookIn }, [{
      kind: 'webhook', hookId: hookOut,
    }, { kind: 'enrol', courseId }]), who: hasTag(asked) }, true) as Extract<SavedRule, { saved: true }>
    const { name, draft } = courseView(context, courseId)
    saveCourse(context, courseId, name, {
      ...draft,
      entry: { kind: 'none', of: [{ kind: 'purchase', fate: 'owned', offerId, within: null, times: 1 }] },
      waysOut: [{ id: 'w', when: { kind: 'entered-segment', thingId: segmentId }, fromStepId: null }],
      onFinish: [{ kind: 'give-tag', tagId: done }],
      steps: [
        draft.steps[0]!,
        { ...base, id: 'fork', kind: 'fork', ways: [{ id: 'yes', who: hasTag(asked), steps: [] }], otherwise: [] },
        { ...base, id: 'hold', kind: 'hold', until: {
          kind: 'event', when: { kind: 'got-tag', thingId: held },
        }, atMost: { count: 3, unit: 'days' }, did: [], didNot: [] },
        { ...base, id: 'dated', kind: 'do', when: {
          kind: 'date-field', fieldId, time: '08:00', days: 0, everyMonths: 0,
        }, then: [{ kind: 'give-tag', tagId: done }] },
        ...draft.steps.slice(1),
      ],
    })
    return { ...setting, offerId, asked, held, done, gone, fieldId, segmentId, hookOut, hookIn, linkId, ruleId, pageId, listId }
  }

  it('one search finds everything that names it, of each kind', async () => {
    const all = await everything()
    const { context, courseId } = all
    const found = (kind: ThingKind, id: number) => usesOf(context.db, { kind, id }).map(({
      kind, how, needs,
    }) => `${how} ${kind}${needs ? '!' : ''}`)
    expect(found('tag', all.asked)).toEqual(['asked in course!', 'asked in segment!', 'asked in rule'])
    expect(found('tag', all.held)).toEqual(['asked in course!'])
    expect(found('tag', all.done)).toEqual(['changed in course', 'changed by link'])
    expect(found('tag', all.tagId)).toEqual(['given by page', 'starts course'])
    expect(found('list', all.listId)).toEqual(['joined on page', 'joined by buying offer', 'mailed by course!'])
    expect(found('field', all.fieldId)).toEqual(['timed by course!'])
    expect(found('offer', all.offerId)).toEqual(['asked in course!'])
    expect(found('segment', all.segmentId)).toEqual(['asked in course!'])
    expect(found('course', courseId)).toEqual(['changed by rule'])
    expect([
      found('hookIn', all.hookIn), found('hookOut', all.hookOut), found('page', all.pageId), found('link', all.linkId),
    ]).toEqual([['wakes rule'], ['changed by rule'], [], []])
  })

  it('no id can be let in under a key that the search does not know', () => {
    // Ids that live and die with the definition they stand in, or are no things of the owner's.
    const OWN = [
      'id', 'stepId', 'fromStepId', 'toId', 'skipToId', 'notIfReadId', 'askId', 'optionIds', 'resultId', 'touchId', 'pictureId', 'fileId',
      'messageId',
      'itemId', 'thingId', 'ownerId', 'senderId',
    ]
    const keys = new Set<string>()
    const walk = (part: unknown): void => {
      if (typeof part !== 'object' || part === null) return
      if (Array.isArray(part)) return part.forEach(walk)
      for (const [key, inner] of Object.entries(part)) {
        if (key === 'keys') for (const name of Object.keys(inner as object)) if (/(^i|I)ds?$/.test(name)) keys.add(name)
        walk(inner)
      }
    }
    for (const schema of [courseDraft, pageInput, offerInput, ruleInput, linkInput, ...conditionShapes]) walk(schema.describe())
    expect(keys.size).toBeGreaterThan(15)
    for (const key of keys) if (!OWN.includes(key)) expect(mentionsIn({ [key]: 7, [`${key}s`]: [8] }).length, key).toBeGreaterThan(0)
    // Those two say in words what they are the id of.
    const named = [{ kind: 'got-tag', thingId: 7 }, { kind: 'email', which: { kind: 'course', ownerId: 7, itemId: 'one' } }]
    expect(named.map(one => mentionsIn(one).map(({ thing }) => thing))).toEqual([[{ kind: 'tag', id: 7 }], [{ kind: 'course', id: 7 }]])
    expect(replacedIn(named[1], { kind: 'course', from: 7, to: 9 })).toEqual({
      kind: 'email', which: { kind: 'course', ownerId: 9, itemId: 'one' },
    })
  })

  it('says who would be lost in which course, and puts another in its place in what runs', async () => {
    const { context, courseId, asked, gone, segmentId, ruleId } = await everything()
    await publishChanges(context, courseId)
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(() => deleteTag(
      context, asked, 0
    )).toThrow('It cannot go while the course “Fold, Sew, Cover” (1 inside) and the segment “askers” need it.')
    expect(endingView(context, { kind: 'tag', id: asked })).toMatchObject({ blocked: true, uses: [{
      people: 1, without: 'cannot work without it',
    }, { people: 0 }, { kind: 'rule', without: 'stops working until you fix it' }] })
    expect(await replaceThing(context, 'tag', asked, gone)).toEqual({ waits: [] })
    expect(courseView(context, courseId).hasChanges).toBe(false)
    expect(usesOf(context.db, {
      kind: 'tag', id: gone,
    }).map(({ kind, id }) => [kind, id])).toEqual([['course', courseId], ['segment', segmentId], ['rule', ruleId]])
    deleteTag(context, asked, 0)
    giveTagByHand(context, ada, gone)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(courseView(context, courseId).ways).toContainEqual({ stepId: 'fork', wayId: 'yes', people: 1 })
    expect(todayView(context).needsAttention.filter(({ title }) => title.includes('gone') || title.includes('stands still'))).toEqual([])
  })

  it('publishes nothing else with what is replaced, and says what waits', async () => {
    const { context, courseId, asked, gone } = await everything()
    await publishChanges(context, courseId)
    const { name, draft } = courseView(context, courseId)
    saveCourse(context, courseId, name, { ...draft, again: 'once' })
    expect(await replaceThing(context, 'tag', asked, gone)).toEqual({ waits: [name] })
    expect(() => deleteTag(context, asked, 0)).toThrow(`the course “${name}”`)
    await publishChanges(context, courseId)
    deleteTag(context, asked, 0)
  })

  it('lets go what is only given or done, and a rule that waits for it stands still; Today says so', async () => {
    const { context, courseId, done, hookIn, hookOut, fieldId, segmentId, linkId } = await everything()
    await publishChanges(context, courseId)
    for (const remove of [
      () => removeField(context, fieldId, 0), () => removeSegment(context, segmentId),
    ]) expect(remove).toThrow(/^It cannot go while the course “Fold/)
    deleteTag(context, done, 0)
    removeHookOut(context, hookOut)
    removeHookIn(context, hookIn)
    removeLink(context, linkId)
    const titles = todayView(context).needsAttention.map(({ title, tone }) => [tone, title])
    expect(titles).toContainEqual(['trouble', 'A house rule does not work'])
    expect(titles).toContainEqual(['plain', 'Fold, Sew, Cover names a tag that is gone'])
    // What went before anything was asked about it, in an earlier version: a fork that would send everybody the other way.
    context.db.prepare(`UPDATE segments SET gone = 1 WHERE id = ?`).run(segmentId)
    expect(todayView(context).needsAttention.map(({
      title, tone,
    }) => [tone, title])).toContainEqual(['trouble', 'Fold, Sew, Cover asks for a tag and a segment that are gone'])
  })
})

describe('B5: people on no list', () => {
  it('have a number and a segment, also in a workspace that was made before it was among the ready ones', async () => {
    const { context, listId } = await furnish(openContext())
    const [ada, bea, cara] = ['ada', 'bea', 'cara'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    leaveListByHand(context, ada, listId)
    context.db.prepare('DELETE FROM list_members WHERE person_id = ?').run(bea)
    const onNone = () => [
      ON_NO_LIST, READY_SEGMENTS.find(({ code }) => code === 'on-no-list')!.condition,
    ].map(where => subscribersCount(context, { ...NOT_NARROWED, search: '', where }).total)
    expect(onNone()).toEqual([2, 2])
    joinListByHand(context, bea, saveList(context, null, { name: 'another', publicName: '', description: '' }))
    expect(onNone()).toEqual([1, 1])
    expect(audienceView(context, { condition: ON_NO_LIST, segmentId: null }).five.map(({ id }) => id)).toEqual([ada])
    expect(cara).toBeGreaterThan(0)
    // As the migration makes it, where there is one of that name already.
    context.db.exec(`DELETE FROM segment_people; UPDATE segments SET code = NULL, name = 'On no list' WHERE code = 'on-no-list'`)
    context.db.exec(hands.sql.slice(hands.sql.indexOf('INSERT INTO segments')))
    const { says } = segmentLines(context).find(({ code }) => code === 'on-no-list')!
    expect(segmentLines(context).filter(line => line.says === says).map(({ name }) => name)).toEqual([
      'On no list (ready-made)', 'On no list',
    ])
  })

  it('readers see a course by its public name, or by its list’s; never by the working one', async () => {
    const { context, courseId } = await furnish(openContext())
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const emailId = emailsOfPerson(context.db, ada)[0]!.id
    const { name, draft } = courseView(context, courseId)
    const seen = () => choicesOf(context, emailId).course!.name
    expect([name, seen()]).toEqual(['Fold, Sew, Cover', listLines(context)[0]!.publicName])
    saveCourse(context, courseId, name, { ...draft, publicName: 'Bind a book in a week' })
    expect(seen()).toBe(listLines(context)[0]!.publicName)
    await publishChanges(context, courseId)
    expect(seen()).toBe('Bind a book in a week')
  })
})

describe('B7: pages and offers', () => {
  it('are deleted, saying first what depends on them; who opted in or bought has what they have', async () => {
    const setting = await openShop(await furnish(openContext()), { price: { currency: 'EUR', amount: 900, paying: 'monthly', parts: 1 } })
    const { context, pageId, offerId } = setting
    const ada = visit(context, 'ada@example.com')
    const segmentId = saveSegment(context, null, {
      name: 'by the page', note: '', condition: { kind: 'all', of: [{ kind: 'opted-in', pageId, within: null }] },
    })
    expect(() => removePage(context, pageId)).toThrow('the segment “by the page”')
    removeSegment(context, segmentId)
    removePage(context, pageId)
    expect([
      pageLines(context), eventsOfPerson(context.db, ada).map(event => sayEvent(event)).some(said => said.includes('Sheet kit')),
    ]).toEqual([[], true])
    expect(() => visit(context, 'late@example.com')).toThrow('There is no page at this address.')
    // Its address is free.
    expect(createPage(context, 'Sheet kit')).not.toBe(pageId)

    await press(context, 'bea@example.com')
    expect(() => removeOffer(context, offerId)).toThrow('Someone is paying for it at this moment')
    await moveTo(context, thursdayNoon + HOUR)
    const { id: purchaseId } = await buy(context, 'bea@example.com')
    expect(() => removeOffer(context, offerId)).toThrow('1 person pays for it regularly')
    await endPurchase(context, purchaseId)
    await moveTo(context, thursdayNoon + 40 * DAY)
    removeOffer(context, offerId)
    expect([offerLines(context), todayView(context).needsAttention.filter(({ title }) => title.includes('gone'))]).toEqual([[], []])
    expect(bought(context, 'bea@example.com')).toHaveLength(1)
  })
})

describe('B10: a table with odd cells', () => {
  const FILE = [
    'email,born,country,status', '"Ada" <ada@example.com>,31/12/1968,PT,active', 'bea@example.com,1968-13-45,Atlantis,active',
    'not an address,01/02/1970,PT,active',
    'cara@example.com,12/31/1970,DE,who knows', '"Lovelace, Dora" <dora@example.com>,12/31/1970,DE,',
    'eve@example.com,03/04/1971 10:15,,unsubscribed',
  ].join('\n')
  async function brought(oddCells: 'leave-out' | 'refuse') {
    const context = openContext()
    const born = saveField(context, null, { name: 'born', label: '', kind: 'date', choices: [] })
    const id = await receiveImport(context, {
      fileName: 'fair.csv', bytes: new TextEncoder().encode(FILE), encoding: null, delimiter: null,
    })
    const { guess } = importView(context, id)
    const spec = {
      columns: guess, listIds: [], tagIds: [], source: 'fair', starts: false, known: 'keep' as const, oddCells,
      consent: { kind: 'none' as const },
    }
    const plan = importPlan(context, { id, spec })
    const taskId = beginImport(context, id, spec)
    await moveTo(context, thursdayNoon + HOUR)
    const people = context.db.prepare(`
      SELECT address, first_name AS name, country, status,
        (SELECT value FROM field_values v WHERE v.person_id = p.id AND v.field_id = ?) AS born
      FROM people p ORDER BY id`).raw().all(born)
    return { context, id, plan, people, task: taskView(context, taskId), csv: [...oddRowsCsv(context, id)].join('') }
  }

  it('comes in without them and lists them; never without an address, or without knowing whether they have left', async () => {
    const { context, id, plan, people, task, csv } = await brought('leave-out')
    expect([plan.new, plan.refused, plan.odd]).toEqual([4, 2, 1])
    expect(plan.firstRefused.map(({ row }) => row)).toEqual([4, 5])
    expect(plan.firstOdd).toEqual([{
      row: 3, address: 'bea@example.com',
      problem: expect.stringMatching(/born: “1968-13-45” is not a date, .* country: “Atlantis”/) as string,
    }])
    expect(people).toEqual([
      ['ada@example.com', 'Ada', 'PT', 'active', '1968-12-31'], ['bea@example.com', '', null, 'active', null],
      ['dora@example.com', '', 'DE', 'active', '1970-12-31'], ['eve@example.com', '', null, 'unsubscribed', '1971-03-04'],
    ])
    expect(task.leftOut).toBe(1)
    expect(csv.split('\r\n').slice(1, -1).map(line => line.split(',').slice(0, 6).filter((_, n) => n !== 1 && n !== 2))).toEqual([
      [
        'bea@example.com', 'active', '3', 'imported without that cell',
      ], ['not an address', 'active', '4', 'no'], ['cara@example.com', 'who knows', '5', 'no'],
    ])
    // Whoever is erased is erased there, too.
    erasePerson(context, findPersonByKey(context.db, 'bea@example.com')!.id)
    expect([...oddRowsCsv(context, id)].join('')).not.toMatch(/bea@|Atlantis/)
  })

  it('is refused row by row where that is wished', async () => {
    const { plan, task } = await brought('refuse')
    expect([plan.new, plan.refused, plan.odd, task.leftOut]).toEqual([3, 3, 0, 0])
  })
})

describe('B9: small things that were not so', () => {
  it('nobody who has come back is asked why they left; whoever left is', async () => {
    const { context, listId } = await furnish(openContext())
    const [ada, bea] = [visit(context, 'ada@example.com'), visit(context, 'bea@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    const [one, two] = [ada, bea].map(id => emailsOfPerson(context.db, id)[0]!.id) as [number, number]
    leave(context, one, { what: 'everything' })
    leave(context, two, { what: 'list', listId })
    expect([choicesOf(context, one).asksWhy, choicesOf(context, two).asksWhy]).toEqual([true, true])
    comeBack(context, one)
    choose(context, two, { listIds: [listId], tagIds: [] })
    expect([choicesOf(context, one).asksWhy, choicesOf(context, two).asksWhy]).toEqual([false, false])
  })

  it('a fork is called by what it asks', () => {
    const names = { tags: new Map([[1, 'one'], [2, 'two'], [3, 'three']]) } as unknown as RuleNames
    const way = (...tagIds: number[]) => ({ id: `w${tagIds.length}`, who: {
      kind: 'all' as const, of: tagIds.map(tagId => ({ kind: 'tag' as const, tagId, since: null })),
    }, steps: [] })
    const says = (...ways: ReturnType<typeof way>[]) => sayStep({
      ...newStep('fork', false), kind: 'fork', ways, otherwise: [],
    }, names, () => '')
    expect(says(way(1))).toBe('People tagged “one”?')
    expect(says(way(1), way(2, 3))).toBe('People tagged “one”? Else, people tagged “two” and “three”?')
    expect(says(way(1), way())).toBe('A fork … choose for whom')
  })

  it('a coupon’s code has no space', async () => {
    const { context, offerId } = await openShop(await furnish(openContext()))
    const input = { cut: { kind: 'percent' as const, hundredths: 1000 }, fromAt: null, untilAt: null, uses: null, lasts: 'every' as const }
    expect(() => saveCoupon(context, offerId, null, { ...input, code: 'EARLY BIRD' })).toThrow(/without spaces/)
    saveCoupon(context, offerId, null, { ...input, code: ' EARLYBIRD ' })
    expect(offerView(context, offerId).coupons.map(({ code }) => code)).toEqual(['EARLYBIRD'])
  })
})
