/** Courses out and in, and the finished ones: each is brought in, started, and read in the mailbox. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fromZip, toZip, ZipProblem } from '#adapters/zip'
import { toFolder, fromFolder, FolderProblem } from '#core/exchange/courseFolder'
import { fromMarkdown, lineToText, textToLine, toMarkdown } from '#core/exchange/markdown'
import type { BlockNode, InlineNode, RichText } from '#core/message/content'
import { emailsOf, type DraftEmail } from '#core/sequence/draft'
import { COURSE_TEMPLATES } from '#core/sequence/templates/index'
import { findCourse } from '#data/courses'
import { allLists, allTags } from '#data/marks'
import { allFields } from '#data/fields'
import { findMail, searchMailbox } from '#data/mailbox'
import { readCourseFile } from '#server/courseFile'
import { bringCourse, courseTemplate, exportCourse } from '#usecases/courses/exchange'
import { letIn } from '#usecases/courses/people'
import { startCourse } from '#usecases/courses/publish'
import { correctPerson, giveTagByHand } from '#usecases/know/byHand'
import { createOffer } from '#usecases/offers/save'
import { recordClick } from '#usecases/reading/click'
import { emailsOfPerson } from '#data/outbox'
import { DAY, furnish, moveTo, openContext, thursdayNoon, visit } from './workshop'

const bytes = (text: string) => new TextEncoder().encode(text)

describe('the finished courses', () => {
  it.each(
    COURSE_TEMPLATES.map(template => [template.course.name, template.key] as const),
  )('%s is brought in, started and read', async (name, key) => {
    const { context } = await furnish(openContext())
    const brought = bringCourse(context, courseTemplate(key))
    expect([brought.name.replace(' (2)', ''), brought.lost]).toEqual([name, []])
    const { draft } = findCourse(context.db, brought.id)!
    await startCourse(context, brought.id)
    const [reader, silent] = ['reader', 'silent'].map(one => visit(context, `${one}@example.com`, 'Ada'))
    for (const id of [reader!, silent!]) {
      if (draft.dates) correctPerson(context, id, {
        firstName: 'Ada', country: null, zone: null, fields: { [draft.dates.fieldId]: '2027-02-10' },
      })
      else if (draft.wayInTagIds[0]) giveTagByHand(context, id, draft.wayInTagIds[0])
      else letIn(context, brought.id, id)
      context.db.prepare(`INSERT OR IGNORE INTO list_members (list_id, person_id, joined_at, event_id) VALUES (?, ?, ?, 1)`).run(
        draft.listId, id, thursdayNoon,
      )
    }
    for (let day = 1; day < 100; day++) {
      await moveTo(context, thursdayNoon + day * DAY)
      for (const row of emailsOfPerson(context.db, reader!)) if (row.ownerId === brought.id && row.handedOverAt && row.clickedAt === null) {
        try {
          recordClick(context, row.id, 0, { agent: 'A browser', robot: false, certain: true })
        }
        catch { /* an email without links */ }
      }
    }
    const subjects = searchMailbox(context.db, '', 300, 0).rows.map(({ subject }) => subject)
    for (const { content } of emailsOf(draft)) {
      // Of three that a fork tells apart, a reader gets one.
      if (['stitch', 'marbling'].some(one => content.workingTitle.includes(one === 'stitch' ? 'soft' : 'wild'))) continue
      const said = content.subject.map(node => node.type === 'text' ? node.text : 'Ada').join('')
      expect(subjects, content.workingTitle).toContain(said)
    }
    for (const { id } of searchMailbox(context.db, '', 300, 0).rows) {
      const source = findMail(context.db, id)!.source.toString()
      expect([source.includes('undefined'), source.includes('{{'), source.includes('Rua do Cais')]).toEqual([false, false, true])
    }
  })

  it('no two of them share two sentences', () => {
    const sentences = (key: string) => {
      const texts = emailsOf(COURSE_TEMPLATES.find(template => template.key === key)!.course.draft).map(({ content }) =>
        toMarkdown(content.body))
      return new Set(texts.join('\n').split(/(?<=[.?!])\s+|\n+/).map(one => one.trim().toLowerCase())
        .filter(one => one.split(' ').length > 3 && !/^(\[|hello |good morning )/.test(one)))
    }
    for (const [n, a] of COURSE_TEMPLATES.entries()) for (const b of COURSE_TEMPLATES.slice(n + 1)) {
      const [mine, theirs] = [sentences(a.key), sentences(b.key)]
      expect([...mine].filter(one => theirs.has(one)).length, `${a.key} and ${b.key}`).toBeLessThan(2)
    }
    expect(COURSE_TEMPLATES).toHaveLength(8)
    expect(new Set(COURSE_TEMPLATES.flatMap(({ course }) => emailsOf(course.draft).map(({ content }) => content.workingTitle))).size).toBe(
      COURSE_TEMPLATES.flatMap(({ course }) => emailsOf(course.draft)).length,
    )
  })
})

describe('a course taken along', () => {
  it('comes back as it was, as JSON and as a folder, here and in a workspace that has nothing of it', async () => {
    const { context } = await furnish(openContext())
    for (const { key } of COURSE_TEMPLATES) {
      const first = bringCourse(context, courseTemplate(key))
      const file = exportCourse(context, first.id)
      const again = bringCourse(context, readCourseFile(bytes(JSON.stringify(file))))
      const { draft } = findCourse(context.db, first.id)!
      expect(findCourse(context.db, again.id)!.draft).toEqual(draft)
      expect([again.name, again.made, again.lost]).toEqual([`${first.name} (2)`, [], []])
      const folder = bringCourse(context, readCourseFile(toZip(toFolder(file))))
      expect(findCourse(context.db, folder.id)!.draft).toEqual(draft)

      const elsewhere = openContext()
      const brought = bringCourse(elsewhere, readCourseFile(toZip(toFolder(file))))
      expect(exportCourse(elsewhere, brought.id)).toEqual(file)
      const names = Object.values(file.names.tag).map(({ name }) => name)
      expect(allTags(elsewhere.db).map(({ name }) => name)).toEqual(expect.arrayContaining(names))
      expect([allLists(elsewhere.db).length > 0, allFields(elsewhere.db).length >= Object.keys(file.names.field).length]).toEqual([
        true, true,
      ])
    }
  })

  it('keeps in a folder what only its owner sees of an email', async () => {
    const { context, courseId } = await furnish(openContext())
    const file = exportCourse(context, courseId)
    const [first] = file.draft.steps
    if (first?.kind !== 'email') throw new Error('It begins with an email')
    Object.assign(first.content, { callToAction: 'Print the sheet: today', sellsNothing: true })
    expect(readCourseFile(toZip(toFolder(file))).draft.steps[0]).toMatchObject({
      content: { workingTitle: 'one', callToAction: 'Print the sheet: today', sellsNothing: true },
    })
  })

  it('leaves out what names something that is not there, and says so; nothing is lost of the rest', async () => {
    const { context, courseId } = await furnish(openContext())
    const file = exportCourse(context, courseId)
    const elsewhere = openContext()
    const [first, ...others] = file.draft.steps
    // Numbers of the file are nobody's numbers here: another offer may have the same one.
    createOffer(elsewhere, 'Something else')
    const { content } = first as DraftEmail
    const offer = { type: 'offer', attrs: { offerId: 91, code: '', label: 'Buy it' } }
    const brought = bringCourse(elsewhere, readCourseFile(bytes(JSON.stringify({
      ...file, names: { ...file.names, other: { 90: { kind: 'course', name: 'Nowhere' }, 91: { kind: 'offer', name: 'Nothing' } } },
      draft: {
        ...file.draft,
        steps: [
          { ...first, content: { ...content, body: { ...content.body, content: [...content.body.content, offer] } } }, ...others,
        ],
        onFinish: [{ kind: 'enrol', courseId: 90 }, { kind: 'score', points: 2 }],
        waysOut: [{ id: 'w', when: { kind: 'bought', thingId: 91 }, fromStepId: null }],
        entry: { kind: 'all', of: [{ kind: 'course', courseId: 90, is: 'finished', stepId: null }] },
      },
    }))))
    expect(brought.lost).toEqual(['the course “Nowhere”', 'the offer “Nothing”'])
    const { entry, waysOut, onFinish, steps } = findCourse(elsewhere.db, brought.id)!.draft
    expect([entry, waysOut, onFinish, steps.length]).toEqual([undefined, [], [{ kind: 'score', points: 2 }], 3])
    expect((steps[0] as DraftEmail).content.body.content.at(-1)).toMatchObject({ type: 'offer', attrs: { offerId: null } })
  })

  it.each([
    ['no file of ours', bytes('{"format":"something else"}'), /not a course of ours|required/],
    ['not JSON', bytes('hello'), /neither JSON nor a ZIP/],
    ['a newer version', bytes('{"format":"keen-porch course","version":3}'), /newer version/],
    ['a broken ZIP', new Uint8Array([0x50, 0x4B, 3, 4, 9, 9]), /cannot be opened as a ZIP/],
    ['a folder without its course', toZip({ 'emails/01.md': 'x' }), /no course.yaml/],
    [
      'an email that is not there',
      toZip({ 'course.yaml': 'format: keen-porch course\ndraft:\n  steps:\n    - {kind: email, id: a, content: emails/none.md}\n' }),
      /emails\/none.md is listed/,
    ],
    [
      'an email without its head',
      toZip({ 'course.yaml': 'draft:\n  steps:\n    - {kind: email, id: a, content: a.md}\n', 'a.md': 'Hello' }), /three hyphens/,
    ],
  ])('refuses %s with a sentence', (_, file, problem) => expect(() => readCourseFile(file)).toThrow(problem))

  it('does not unpack what would fill the memory', () => {
    const bomb = toZip({ 'course.yaml': 'a'.repeat(30_000_000) })
    expect(bomb.length).toBeLessThan(100_000)
    expect(() => fromZip(bomb)).toThrow(ZipProblem)
    expect(() => fromFolder({})).toThrow(FolderProblem)
  })

  it('a folder that was packed with its own name on it is read all the same', async () => {
    const { context, courseId } = await furnish(openContext())
    const folder = toFolder(exportCourse(context, courseId))
    const packed = toZip(Object.fromEntries(Object.entries(folder).map(([name, text]) => [`my course/${name}`, text])))
    expect(bringCourse(context, readCourseFile(packed)).lost).toEqual([])
  })
})

describe('emails as Markdown', () => {
  const word = fc.stringMatching(/^[A-Za-zé*_[\]<>#&`\\.!-]{1,8}$/)
  const text = fc.array(word, { minLength: 1, maxLength: 5 }).map(words => words.join(' '))
  const node: fc.Arbitrary<InlineNode> = fc.oneof(
    text.map((said): InlineNode => ({ type: 'text', text: said })),
    text.map((said): InlineNode => ({ type: 'text', text: said, marks: [{ type: 'bold' }] })),
    text.map((
      said,
    ): InlineNode => ({ type: 'text', text: said, marks: [{ type: 'link', attrs: { href: 'https://a.example.com/x?y=(1)&z=_' } }] })),
    fc.constant<InlineNode>({ type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }),
  )
  // What stands side by side is told apart by a blank of its own.
  const inline = fc.array(node, { minLength: 1, maxLength: 4 })
    .map((nodes): InlineNode[] => nodes.flatMap((one, n) => n === 0 ? [one] : [{ type: 'text' as const, text: ' — ' }, one]))
  const paragraph = inline.map((content): BlockNode => ({ type: 'paragraph', content }))
  const block: fc.Arbitrary<BlockNode> = fc.oneof(
    paragraph,
    inline.map((content): BlockNode => ({ type: 'heading', attrs: { level: 2 }, content })),
    fc.record({ label: text, tagId: fc.option(fc.integer({ min: 1, max: 99 })) })
      .map(({ label, tagId }): BlockNode => ({ type: 'button', attrs: { label, url: 'https://a.example.com/', tagId } })),
    fc.array(paragraph, { minLength: 1, maxLength: 3 })
      .map((items): BlockNode => ({ type: 'bulletList', content: items.map(item => ({ type: 'listItem', content: [item as never] })) })),
  )
  /** Words that are marked alike and stand beside each other are the same words. */
  const plain = (
    body: RichText,
  ) => JSON.stringify(body, (_, value: unknown) => Array.isArray(value) ? value.reduce((all: unknown[], one: unknown) => {
    const [last, next] = [all.at(-1), one] as ({ type?: string, text?: string, marks?: unknown } | undefined)[]
    if (last?.type === 'text' && next?.type === 'text' && JSON.stringify(last.marks) === JSON.stringify(next.marks)) {
      return [...all.slice(0, -1), { ...last, text: last.text! + next.text! }]
    }
    return [...all, one]
  }, []) : value)

  it('come back as they were', () => {
    fc.assert(fc.property(fc.array(block, { minLength: 1, maxLength: 5 }), (content) => {
      // Two lists beside each other are one in Markdown.
      const body: RichText = { type: 'doc', content: content.flatMap(one =>
        one.type === 'bulletList' ? [one, { type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'so' }] }] : [one]) }
      expect(plain(fromMarkdown(toMarkdown(body)))).toBe(plain(body))
    }), { numRuns: 400 })
  })

  it('what an email cannot hold becomes words; a subject keeps its placeholder', () => {
    expect(fromMarkdown('# Big\n\n> quoted <b>html</b>\n\n![p](x.png)\n\n```js\nlet x\n```\n\n1. one\n2. two\n')).toMatchObject({
      content: [
        { type: 'heading' }, { type: 'blockquote' }, { type: 'paragraph' }, { type: 'paragraph', content: [{ text: 'let x' }] },
        { type: 'orderedList', content: [{}, {}] },
      ],
    })
    expect(lineToText(textToLine('Hello [first name, or: friend], [not one]'))).toBe('Hello [first name, or: friend], [not one]')
    expect(textToLine('Hello [first name, or: friend]')).toEqual([
      { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } },
    ])
  })
})
