/** B7: whatever is made can be copied and put away; a copy is at work nowhere, and what is at work stays in sight. */
import { describe, expect, it } from 'vitest'
import { newRule } from '#core/rules/rule'
import type { Thing, ThingKind } from '#core/things'
import { allArchived } from '#data/archive'
import { findCourse } from '#data/courses'
import { countMembers, findTag } from '#data/marks'
import { findPage } from '#data/pages'
import { findRule } from '#data/rules'
import { mentionsIn } from '#core/mentions'
import { isThere } from '#data/things'
import { takePageDown, publishPage } from '#usecases/arrive/pages'
import { stopCourse, letCourseGoOn } from '#usecases/courses/stop'
import { archiveThing, bringBack } from '#usecases/know/archive'
import { copyThing } from '#usecases/know/copyThing'
import { saveField } from '#usecases/know/fields'
import { saveLink } from '#usecases/know/links'
import { saveRule, switchRule } from '#usecases/know/rules'
import { saveSegment } from '#usecases/know/segments'
import { takeOfferDown } from '#usecases/offers/save'
import { NotNow, NotThere } from '#usecases/problem'
import { endingView } from '#usecases/views/ending'
import { frameView } from '#usecases/views/frame'
import { todayView } from '#usecases/views/today'
import { tagLines } from '#usecases/views/listsAndTags'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { openShop } from './shop'
import { email, furnish, openContext, step, visit } from './workshop'

/** One of each that can be made. */
async function oneOfEach() {
  const setting = await openShop(await furnish(openContext()))
  const { context, pageId, listId, tagId, courseId, offerId } = setting
  const saved = await saveRule(context, null, newRule({ kind: 'got-tag', thingId: tagId }, [
    { kind: 'score', points: 2 }, { kind: 'email', listId, messageId: null, content: email('hello') },
  ]))
  const things: Record<string, number> = {
    page: pageId, list: listId, tag: tagId, course: courseId, offer: offerId, rule: saved.saved ? saved.id : 0,
    segment: saveSegment(context, null, { name: 'Kit people', note: 'why', condition: { kind: 'tag', tagId, since: null } }),
    link: saveLink(context, null, { name: 'Kit', url: 'https://example.com/kit', note: '', does: [
      { kind: 'give-tag', tagId },
    ], asks: true }),
    field: saveField(context, null, { name: 'books', label: 'How many?', kind: 'choice', choices: ['one', 'two'] }),
  }
  return { ...setting, things: Object.entries(things).map(([kind, id]): Thing => ({ kind: kind as ThingKind, id })) }
}

/** What it says, without its number, name, address and times. */
function wordsOf(context: { db: Parameters<typeof findTag>[0] }, { kind, id }: Thing): unknown {
  const table = {
    page: 'pages', offer: 'offers', course: 'courses', list: 'lists', tag: 'tags', field: 'fields', segment: 'segments', rule: 'rules',
    link: 'links',
  }[kind as string]!
  const row = context.db.prepare(`SELECT * FROM ${table} WHERE id = ?`).get(id) as Record<string, unknown>
  return row.draft ?? (kind === 'rule' ? { ...JSON.parse(String(row.rule)), on: null, messageId: null } : [
    row.note, row.condition, row.url, row.does, row.asks, row.label, row.kind, row.choices, row.group_name, row.colour, row.public_name,
    row.description,
  ])
}

describe('B7: a copy', () => {
  it('says the same under another name, each time anew, and is at work nowhere', async () => {
    const { context, things, tagId } = await oneOfEach()
    visit(context, 'ada@example.com')
    for (const thing of things) {
      const [first, second] = [await copyThing(context, thing), await copyThing(context, thing)]
      expect(new Set([thing.id, first, second]).size, thing.kind).toBe(3)
      expect(wordsOf(context, { kind: thing.kind, id: second }), thing.kind).toEqual(wordsOf(context, thing))
      const copy = { kind: thing.kind, id: first }
      if (thing.kind === 'page') expect(findPage(context.db, first)).toMatchObject({ name: 'Sheet kit, copy', published: null })
      if (thing.kind === 'course') expect(findCourse(context.db, first)).toMatchObject({ status: 'draft', versionId: null })
      if (thing.kind === 'rule') expect(findRule(context.db, first)!.on).toBe(false)
      if (thing.kind === 'tag') {
        expect([findTag(context.db, first)!.name, tagLines(context).find(tag => tag.id === first)!.people]).toEqual(['sheet kit, copy', 0])
      }
      if (thing.kind === 'list') expect(countMembers(context.db, first)).toBe(0)
      expect(isThere(context.db, copy.kind, copy.id)).toBe(true)
    }
    // A rule that sends an email sends it from the copy, too.
    const rule = things.find(({ kind }) => kind === 'rule')!
    const copied = await copyThing(context, rule)
    await switchRule(context, copied, true)
    expect(mentionsIn(findRule(context.db, copied)).some(({ thing }) => thing.kind === 'tag' && thing.id === tagId)).toBe(true)
    await expect(copyThing(context, { kind: 'page', id: 999 })).rejects.toThrow(NotThere)
    await expect(copyThing(context, { kind: 'hookIn', id: 1 })).rejects.toThrow(NotThere)
  })

  it('is called something that fits and that nothing else is called, however long the name and often it is copied', async () => {
    const { context } = await oneOfEach()
    const name = 'ö'.repeat(80)
    const id = saveSegment(context, null, { name, note: '', condition: { kind: 'all', of: [] } })
    const names = []
    for (let n = 0; n < 3; n++) {
      const copy = await copyThing(context, { kind: 'segment', id })
      names.push((context.db.prepare('SELECT name FROM segments WHERE id = ?').get(copy) as { name: string }).name)
    }
    expect([new Set(names).size, names.every(one => one.length <= 80)]).toEqual([3, true])
  })
})

describe('B7: the archive', () => {
  it('takes whatever is not at work, says what to do where it is, and leaves what it does as it was', async () => {
    const { context, things, pageId, offerId, courseId } = await oneOfEach()
    const atWork = things.filter(({ kind }) => ['page', 'offer', 'course', 'rule'].includes(kind))
    for (const thing of atWork) expect(() => archiveThing(context, thing), thing.kind).toThrow(NotNow)
    takePageDown(context, pageId)
    takeOfferDown(context, offerId)
    stopCourse(context, courseId)
    await switchRule(context, things.find(({ kind }) => kind === 'rule')!.id, false)
    const before = frameView(context).counts
    for (const thing of things) {
      archiveThing(context, thing)
      archiveThing(context, thing)
    }
    const { counts, archived } = frameView(context)
    // What is put away asks for nothing on Today.
    expect(todayView(context).needsAttention.map(({ to }) => to).filter(to => /^\/(pages|offers|courses)\/\d/.test(to))).toEqual([])
    expect([
      archived.length, before.pages - counts.pages, before.courses - counts.courses, before.tagsAndLists - counts.tagsAndLists,
    ]).toEqual([9, 1, 1, 2])
    for (const thing of things.filter(({ kind }) => kind !== 'course')) bringBack(context, thing)
    expect(allArchived(context.db)).toEqual([{ kind: 'course', id: courseId }])
    expect(() => archiveThing(context, { kind: 'hookOut', id: 1 })).toThrow(NotThere)
    expect(() => archiveThing(context, { kind: 'tag', id: 999 })).toThrow(NotThere)
  })

  it('lets nothing work out of sight: what is published, started or switched on again stands in its list again', async () => {
    const { context, things, pageId, courseId } = await oneOfEach()
    const rule = things.find(({ kind }) => kind === 'rule')!
    takePageDown(context, pageId)
    stopCourse(context, courseId)
    await switchRule(context, rule.id, false)
    for (const thing of [{ kind: 'page' as const, id: pageId }, { kind: 'course' as const, id: courseId }, rule]) {
      archiveThing(context, thing)
    }
    await publishPage(context, pageId)
    letCourseGoOn(context, courseId)
    await switchRule(context, rule.id, true)
    expect(allArchived(context.db)).toEqual([])
  })
})

describe('B4: a deletion', () => {
  it('names a thing once, as what it weighs most: a course that a tag starts and that asks for it cannot do without it', async () => {
    const { context, listId, tagId } = await oneOfEach()
    const id = createCourse(context, 'Asks for its own tag', 'a')
    saveCourse(context, id, 'Asks for its own tag', {
      listId, wayInTagIds: [tagId], again: 'once', entry: { kind: 'tag', tagId, since: null }, steps: [step('a', { kind: 'at-once' })],
    })
    await startCourse(context, id)
    const uses = endingView(context, { kind: 'tag', id: tagId }).uses.filter(use => use.kind === 'course' && use.id === id)
    expect(uses.map(({ needs }) => needs)).toEqual([true])
  })
})
