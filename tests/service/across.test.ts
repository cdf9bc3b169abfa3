/** Copying what was made from practice to live and back, with what it depends on. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import type { CopyAcross } from '#core/views/across'
import { allCourses, findCourse } from '#data/courses'
import { allFiles, contentOfFile } from '#data/files'
import { allLists, allTags, findTag } from '#data/marks'
import { allPages, findPage } from '#data/pages'
import { allRules } from '#data/rules'
import { allSegments, findSegment } from '#data/segments'
import { bringFile } from '#usecases/arrive/files'
import { saveSender } from '#usecases/settings/senders'
import { savePage } from '#usecases/arrive/pages'
import { saveCourse } from '#usecases/courses/save'
import { copyAcross } from '#usecases/know/copyAcross'
import { saveHookOut } from '#usecases/know/hooks'
import { saveRule } from '#usecases/know/rules'
import { saveSegment } from '#usecases/know/segments'
import { NotThere } from '#usecases/problem'
import { furnish, openContext, thursdayNoon, visit, type Workshop } from './workshop'

const liveOf = () => openContext({ mode: 'live', clock: { at: thursdayNoon } })
const done = (copied: CopyAcross) => {
  if (copied.is !== 'done') throw new Error('It was asked about')
  return copied
}
const counts = ({ db }: Workshop) =>
  [allPages, allCourses, allTags, allLists, allRules, allSegments, allFiles].map(all => all(db).length)

describe('copying to the other workspace', () => {
  it('takes lists, tags, files and the course that a page leads into along, as drafts, and nobody', async () => {
    const { context, pageId, courseId } = await furnish(openContext())
    const live = liveOf()
    const { id: fileId } = bringFile(context, 'kit.pdf', 'application/pdf', Buffer.from('%PDF-1.7 twelve sheets'))
    const page = findPage(context.db, pageId)!
    // Its first email names a sender who is there as well, its second one who is not.
    const asked = (address: string) => ({ name: 'Post', address, replyTo: '', serviceUrl: null, listIds: [], tagIds: [] })
    const both = saveSender(context, null, asked('post@saltmarsh.example.com'))
    const here = saveSender(context, null, asked('orders@saltmarsh.example.com'))
    saveSender(live, null, asked('ines@saltmarsh.example.com'))
    const there = saveSender(live, null, asked('Post@saltmarsh.example.com'))
    const before = findCourse(context.db, courseId)!
    const from = (n: number) => n === 0 ? { senderId: both } : n === 1 ? { senderId: here } : {}
    saveCourse(context, courseId, before.name, { ...before.draft, steps: before.draft.steps.map((one, n) =>
      one.kind === 'email' ? { ...one, content: { ...one.content, ...from(n) } } : one) })
    const promised = { fileId, mail: page.draft.confirming.mail }
    savePage(context, pageId, { ...page, draft: { ...page.draft, courseId, promised } })
    visit(context, 'ada@example.com')
    const { id, alongside, replaced } = done(copyAcross(context, live, { kind: 'page', id: pageId }, null))
    const copy = findPage(live.db, id)!
    expect([copy.name, copy.slug, copy.published, replaced]).toEqual(['Sheet kit', 'sheet-kit', null, false])
    expect(alongside).toContain('the course “Fold, Sew, Cover”')
    const course = findCourse(live.db, copy.draft.courseId!)!
    expect([course.name, course.status, course.draft.steps.length])
      .toEqual(['Fold, Sew, Cover', 'draft', findCourse(context.db, courseId)!.draft.steps.length])
    expect(course.draft.steps.map(one => one.kind === 'email' && one.content.senderId)).toEqual([there, undefined, undefined])
    // Numbers are those of there: what they name has the same name.
    const tagName = (of: Workshop, tagId: number) => findTag(of.db, tagId)!.name
    expect(course.draft.wayInTagIds.map(tagId => tagName(live, tagId)))
      .toEqual(findCourse(context.db, courseId)!.draft.wayInTagIds.map(tagId => tagName(context, tagId)))
    expect(Buffer.from(contentOfFile(live.db, copy.draft.promised!.fileId!)).toString()).toBe('%PDF-1.7 twelve sheets')
    expect(live.db.prepare('SELECT count(*) FROM people').pluck().get()).toBe(0)
  })

  it('asks where there is one of the name; replaces its draft and nothing that is published, or makes another one', async () => {
    const { context, pageId } = await furnish(openContext())
    const { context: other, pageId: otherId } = await furnish(openContext())
    const page = findPage(context.db, pageId)!
    const sections = page.draft.sections.map(section => section.kind === 'headline' ? { ...section, text: 'Newer words' } : section)
    savePage(context, pageId, { ...page, draft: { ...page.draft, sections } })
    const before = counts(other)
    expect(copyAcross(context, other, { kind: 'page', id: pageId }, null)).toEqual({ is: 'asks', name: 'Sheet kit' })
    expect(counts(other)).toEqual(before)
    expect(done(copyAcross(context, other, { kind: 'page', id: pageId }, true))).toMatchObject({ id: otherId, replaced: true })
    const replaced = findPage(other.db, otherId)!
    expect(JSON.stringify(replaced.draft)).toContain('Newer words')
    expect(JSON.stringify(replaced.published)).not.toContain('Newer words')
    const { id } = done(copyAcross(context, other, { kind: 'page', id: pageId }, false))
    expect([findPage(other.db, id)!.name, findPage(other.db, id)!.slug]).toEqual(['Sheet kit 2', 'sheet-kit-2'])
    // The same over and over makes no second file, list or tag.
    expect(counts(other)).toEqual([before[0]! + 1, ...before.slice(1)])
  })

  it('brings what names each other: a course and the segment that asks about it', async () => {
    const { context, courseId } = await furnish(openContext())
    const inside: Condition = { kind: 'all', of: [{ kind: 'course', courseId, is: 'inside', stepId: null }] as Condition[] } as Condition
    const segmentId = saveSegment(context, null, { name: 'At the bench', note: '', condition: inside })
    const course = findCourse(context.db, courseId)!
    const entry: Condition = { kind: 'none', of: [{ kind: 'segment', segmentId }] }
    saveCourse(context, courseId, course.name, { ...course.draft, entry })
    for (const thing of [{ kind: 'course' as const, id: courseId }, { kind: 'segment' as const, id: segmentId }]) {
      const live = liveOf()
      copyAcross(context, live, thing, null)
      const there = allCourses(live.db)[0]!
      const segment = allSegments(live.db).find(({ name }) => name === 'At the bench')!
      expect(JSON.stringify(there.draft.entry), thing.kind).toContain(`"segmentId":${segment.id}`)
      expect(JSON.stringify(findSegment(live.db, segment.id)!.condition), thing.kind).toContain(`"courseId":${there.id}`)
    }
  })

  it('does nothing at all where a part of it cannot be: an address outside that is not there', async () => {
    const { context, tagId } = await furnish(openContext())
    const live = liveOf()
    const hookId = saveHookOut(context, null, { name: 'the shop', url: 'https://shop.example.com/hook', fields: [], secret: '' } as never)
    const rule = await saveRule(context, null, {
      when: { kind: 'got-tag', thingId: tagId }, who: { kind: 'all', of: [] }, often: { kind: 'each' }, on: true, note: '',
      then: [{ kind: 'webhook', hookId }],
    } as never)
    const before = counts(live)
    expect(() => copyAcross(context, live, { kind: 'rule', id: (rule as { id: number }).id }, null))
      .toThrow('Not here: the webhook “the shop”.')
    expect(counts(live)).toEqual(before)
    expect(() => copyAcross(context, live, { kind: 'list', id: 1 }, null)).toThrow(NotThere)
    expect(() => copyAcross(context, live, { kind: 'page', id: 999 }, null)).toThrow(NotThere)
  })

  it('copies a house rule switched off', async () => {
    const { context, tagId, interestId } = await furnish(openContext())
    const live = liveOf()
    const rule = await saveRule(context, null, {
      when: { kind: 'got-tag', thingId: tagId }, who: { kind: 'all', of: [] }, often: { kind: 'each' }, on: true, note: '',
      then: [{ kind: 'give-tag', tagId: interestId }],
    })
    done(copyAcross(context, live, { kind: 'rule', id: (rule as { id: number }).id }, null))
    expect(allRules(live.db).map(({ on, when }) => [on, when.kind])).toEqual([[false, 'got-tag']])
  })
})
