/** What a new workspace begins with: a page with the course that starts from it, and the list on Today that ticks itself. */
import { describe, expect, it } from 'vitest'
import { emptyOutline } from '#core/sequence/outline'
import { allCourses, findCourse } from '#data/courses'
import { allLists, allTags, findTag } from '#data/marks'
import { allPages, findPage } from '#data/pages'
import { enrolmentsOfPerson } from '#data/enrolments'
import { makePageWithCourse } from '#usecases/arrive/pageWithCourse'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { beginCourse } from '#usecases/courses/begin'
import { saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { workspaceOf } from '#data/workspace'
import { saveSettings } from '#usecases/settings/workspace'
import { saveList } from '#usecases/know/listsAndTags'
import { InputProblem } from '#usecases/problem'
import { email, moveTo, openContext, thursdayNoon, visit, DAY } from './workshop'

let ids = 0
const newId = () => `n${++ids}`
const outline = { kind: 'outline' as const, outline: { lines: emptyOutline(5), everyDays: 1, time: '08:00' } }

describe('a page and its course, made in one go', () => {
  it('are wired: who opts in is on the list, gets the tag, and gets the first email', async () => {
    const context = openContext()
    const { db } = context
    const { id, courseId } = makePageWithCourse(context, {
      page: { name: 'Sheet kit', beginning: 'email-course' }, course: { beginning: outline, listId: null },
    }, newId)
    const course = findCourse(db, courseId)!
    const page = findPage(db, id)!
    expect(course.draft.steps).toHaveLength(5)
    expect(page.draft.listIds).toEqual([course.draft.listId])
    expect(course.draft.wayInTagIds).toEqual([page.draft.tagIds.at(-1)])
    expect(findTag(db, course.draft.wayInTagIds[0]!)!.name).toBe('opted in: Sheet kit')
    // What is published and started as it was made brings the first email, once it is written.
    saveSettings(context, { ...workspaceOf(db), senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com', postalAddress: 'Lisboa' })
    savePage(context, id, { ...page, draft: { ...page.draft, confirming: { ...page.draft.confirming, who: 'nobody' } } })
    await publishPage(context, id)
    const steps = course.draft.steps.map(step => step.kind === 'email' ? { ...step, content: email('hello') } : step)
    saveCourse(context, courseId, course.name, { ...course.draft, steps })
    await startCourse(context, courseId, { kind: 'none' }, null)
    const person = visit(context, 'filipa@example.com')
    expect(enrolmentsOfPerson(db, person).map(one => one.courseId)).toEqual([courseId])
    await moveTo(context, thursdayNoon + DAY)
    expect(db.prepare('SELECT count(*) FROM mailbox').pluck().get()).toBe(2)
  })

  it('make a second pair beside the first without sharing a tag, on the list that is chosen', () => {
    const context = openContext()
    const listId = saveList(context, null, { name: 'letters', publicName: 'Letters', description: '', offered: true })
    const first = makePageWithCourse(context, { page: { name: 'Kit', beginning: null }, course: { beginning: outline, listId } }, newId)
    const second = makePageWithCourse(context, { page: { name: 'Kit', beginning: null }, course: { beginning: outline, listId } }, newId)
    const tagOf = (courseId: number) => findCourse(context.db, courseId)!.draft.wayInTagIds
    expect(tagOf(first.courseId)).not.toEqual(tagOf(second.courseId))
    expect(allLists(context.db)).toHaveLength(1)
  })

  it('take a finished course without the list and tags it would bring of its own', () => {
    const context = openContext()
    const { courseId } = makePageWithCourse(context, {
      page: { name: 'Kit', beginning: null }, course: { beginning: { kind: 'template', key: 'five-days' }, listId: null },
    }, newId)
    const { draft, name } = findCourse(context.db, courseId)!
    expect([name, draft.steps.length, draft.wayInTagIds.length]).toEqual(['Kit', 5, 1])
    expect(allLists(context.db).map(list => list.id)).toEqual([draft.listId])
    expect(allTags(context.db).map(tag => tag.name).sort())
      .toEqual(['likes: coptic', 'likes: long-stitch', 'likes: marbling', 'opted in: Kit', 'undecided'])
  })

  it('make nothing at all where a part of it cannot be', () => {
    const context = openContext()
    const made = () => [allPages, allCourses, allTags, allLists].map(all => all(context.db).length)
    const before = made()
    for (const [name, key, listId] of [['  ', 'five-days', null], ['Kit', 'no-such', null], ['Kit', 'five-days', 99]] as const) {
      expect(() => makePageWithCourse(context, {
        page: { name, beginning: null }, course: { beginning: { kind: 'template', key }, listId },
      }, newId)).toThrow()
    }
    expect(made()).toEqual(before)
    expect(() => beginCourse(context, ' ', outline, newId)).toThrow(InputProblem)
  })
})
