/** Broadcasts out of one workspace and into another: as a file, by a link, to live, and as an email. */
import PostalMime from 'postal-mime'
import { describe, expect, it } from 'vitest'
import { partsOf, ofParts } from '#core/audience/parts'
import type { BlockNode } from '#core/message/content'
import { allBroadcasts, findBroadcast } from '#data/broadcasts'
import { contentOfFile, findFile } from '#data/files'
import { allLists, allTags, findList, findTag } from '#data/marks'
import { picturesByIds } from '#data/pictures'
import { readBroadcastFile } from '#server/broadcastFile'
import { isCheckedElsewhere } from '#server/files/index'
import { broadcastInput } from '#server/broadcastSchemas'
import { bringFile } from '#usecases/arrive/files'
import { bringPicture } from '#usecases/arrive/pictures'
import {
  bringBroadcast, broadcastEml, broadcastHtml, codeOfCopyUrl, copyOfCode, copyUrlOf, exportBroadcast, setCopyLink,
} from '#usecases/broadcasts/exchange'
import { removeBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import { copyAcross } from '#usecases/know/copyAcross'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveSegment } from '#usecases/know/segments'
import { createOffer } from '#usecases/offers/save'
import { InputProblem, NotThere } from '#usecases/problem'
import { broadcastView } from '#usecases/views/broadcasts'
import { NO_GUARDS, writeBroadcast } from './broadcasting'
import { email, furnish, HOUR, moveTo, openContext, tag, thursdayNoon, visit, type Workshop } from './workshop'

const bytes = (value: unknown) => new TextEncoder().encode(JSON.stringify(value))
const red = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="40" height="20" fill="red"/></svg>'

/** One with all that can go along. */
async function written() {
  const setting = await furnish(openContext())
  const { context, listId, courseId } = setting
  const likes = saveTag(context, null, tag('likes: paper'))
  const picture = await bringPicture(context, 'sheet.png', await context.pictures.draw(red))
  const file = bringFile(context, 'kit.pdf', 'application/pdf', Buffer.from('%PDF-1.7 twelve sheets'))
  const offerId = createOffer(context, 'Box of papers')
  const body: BlockNode[] = [
    { type: 'paragraph', content: [{ type: 'text', text: 'Six new papers.' }] },
    { type: 'picture', attrs: { pictureId: picture.id, alt: 'A red sheet', url: '', size: 50, align: null } } as BlockNode,
    { type: 'button', attrs: { label: 'Show me', url: 'https://saltmarsh.example.com/papers', tagId: likes } },
    { type: 'offer', attrs: { offerId, code: '', label: 'Buy the box' } },
  ]
  const id = writeBroadcast(context, listId, {
    content: email('Winter papers', {
      body: { type: 'doc', content: body }, attached: [{ fileId: file.id, name: 'kit.pdf', bytes: 22 }],
    }),
    who: ofParts({
      belongs: { kind: 'all', of: [{ kind: 'tag', tagId: likes, since: null }] },
      never: { kind: 'none', of: [{ kind: 'course', courseId, is: 'inside', stepId: null }] },
    }),
    guards: { ...NO_GUARDS, insideCourseIds: [courseId] }, when: { kind: 'at', date: '2026-12-01', time: '08:00', zone: 'reader' },
    story: { offerId, topic: 'papers' },
  })
  return { ...setting, id, likes }
}

describe('a broadcast as a file', () => {
  it('brings its email with pictures and files, its audience by name, and nobody; what is not there is left out and said', async () => {
    const { context, id } = await written()
    const there = openContext()
    // Numbers of there are other things.
    for (const name of ['one', 'two', 'three']) saveTag(there, null, tag(name))
    createOffer(there, 'Something else')
    const brought = await bringBroadcast(there, readBroadcastFile(bytes(exportBroadcast(context, id))))
    expect(brought.lost).toEqual(['the offer “Box of papers”', 'the course “Fold, Sew, Cover”'])
    expect(brought.made).toEqual(['the list “letters”', 'the tag “likes: paper”'])
    const { draft, state, name } = findBroadcast(there.db, brought.id)!
    expect([name, state, draft.when, draft.again, draft.story, draft.guards.insideCourseIds]).toEqual([
      'Winter papers', 'draft', { kind: 'now' }, null, { offerId: null, topic: 'papers' }, [],
    ])
    const [, picture, button, offer] = draft.content.body.content as unknown as { attrs: Record<string, number> }[]
    expect([findTag(there.db, button!.attrs.tagId!)!.name, offer!.attrs.offerId, findList(there.db, draft.listId!)!.name])
      .toEqual(['likes: paper', null, 'letters'])
    expect(picturesByIds(there.db, [picture!.attrs.pictureId!])).toMatchObject([{ width: 40, height: 20 }])
    const [attached] = draft.content.attached!
    expect([findFile(there.db, attached!.fileId)!.name, Buffer.from(contentOfFile(there.db, attached!.fileId)).toString()])
      .toEqual(['kit.pdf', '%PDF-1.7 twelve sheets'])
    expect(partsOf(draft.who)).toEqual({
      belongs: { kind: 'all', of: [{ kind: 'tag', tagId: button!.attrs.tagId, since: null }] }, never: { kind: 'none', of: [] },
    })
  })

  it('comes back to where it was as it was, and makes nothing a second time', async () => {
    const { context, id } = await written()
    const file = readBroadcastFile(bytes(exportBroadcast(context, id)))
    const counts = () => [allLists(context.db).length, allTags(context.db).length]
    const before = counts()
    const brought = await bringBroadcast(context, file)
    expect([brought.made, brought.lost, counts()]).toEqual([[], [], before])
    const again = exportBroadcast(context, brought.id)
    const numberless = (value: unknown) => JSON.parse(JSON.stringify(value, (key, inner: unknown) =>
      ['pictureId', 'fileId'].includes(key) ? 'its number' : inner)) as unknown
    expect(numberless({ ...again, contents: null })).toEqual(numberless({ ...file, contents: null }))
    expect(Object.values(again.contents.files)).toEqual(Object.values(file.contents.files))
  })

  it.each([
    ['no JSON', new TextEncoder().encode('hello'), /no JSON/],
    ['something else', bytes({ format: 'keen-porch course', version: 2 }), /not a broadcast exported from here/],
    ['a newer version', bytes({ format: 'keen-porch broadcast', version: 2 }), /newer version/],
    ['no draft', bytes({ format: 'keen-porch broadcast', version: 1, name: 'x', names: {} }), /draft/],
    ['too deep', bytes(JSON.parse(`${'['.repeat(200)}${']'.repeat(200)}`)), /nested too deeply/],
  ])('that is %s is refused in words', (_, file, words) => {
    expect(() => readBroadcastFile(file)).toThrow(words)
  })

  it('with something in place of a picture is refused, and leaves nothing behind', async () => {
    const { context, id } = await written()
    const there = openContext()
    const file = exportBroadcast(context, id)
    for (const picture of Object.values(file.contents.pictures)) picture.content = Buffer.from('<script>').toString('base64')
    await expect(bringBroadcast(there, readBroadcastFile(bytes(file)))).rejects.toThrow(InputProblem)
    expect([allBroadcasts(there.db), allTags(there.db)]).toEqual([[], []])
  })

  it('with a file that calls itself something evil is kept under a harmless name', async () => {
    const { context, id } = await written()
    const there = openContext()
    const file = exportBroadcast(context, id)
    for (const one of Object.values(file.contents.files)) Object.assign(
      one, { name: '../../etc/<b>"pass\r\nwd.pdf', type: 'text/html\r\nx: y' }
    )
    const { id: copy } = await bringBroadcast(there, readBroadcastFile(bytes(file)))
    const [attached] = findBroadcast(there.db, copy)!.draft.content.attached!
    expect(findFile(there.db, attached!.fileId)).toMatchObject({ name: 'bpasswd.pdf', type: 'application/octet-stream' })
  })

  it('may be long: what is checked of it does not keep others waiting', () => {
    expect(isCheckedElsewhere(broadcastInput)).toBe(true)
  })
})

describe('a copy by a link', () => {
  it('can be taken by whoever has the link, until it is taken back; the next link is another', async () => {
    const { context, id } = await written()
    expect(broadcastView(context, id).copyUrl).toBeNull()
    setCopyLink(context, id, true)
    const url = broadcastView(context, id).copyUrl!
    setCopyLink(context, id, true)
    expect(broadcastView(context, id).copyUrl).toBe(url)
    const code = codeOfCopyUrl(context, `${url}?from=a-letter`)!
    expect([copyUrlOf(context, code), code.length > 20]).toEqual([url, true])
    expect(copyOfCode(context, code)).toEqual(exportBroadcast(context, id))
    expect(codeOfCopyUrl(context, 'https://elsewhere.example.com/letters/copy/x')).toBeNull()
    setCopyLink(context, id, false)
    expect(() => copyOfCode(context, code)).toThrow(NotThere)
    setCopyLink(context, id, true)
    const next = codeOfCopyUrl(context, broadcastView(context, id).copyUrl!)!
    expect(next).not.toBe(code)
    removeBroadcast(context, id)
    expect(() => copyOfCode(context, next)).toThrow(NotThere)
  })
})

describe('to live', () => {
  it('it takes along what it names, asks before it replaces a draft, and never touches what was sent', async () => {
    const { context, listId, interestId } = await furnish(openContext())
    const live: Workshop = openContext({ mode: 'live', clock: { at: thursdayNoon } })
    const segmentId = saveSegment(context, null, { name: 'Keen', note: '', condition: { kind: 'tag', tagId: interestId, since: null } })
    const id = writeBroadcast(context, listId, {
      who: ofParts({ belongs: { kind: 'all', of: [{ kind: 'segment', segmentId, is: true } as never] }, never: { kind: 'none', of: [] } }),
    })
    const first = copyAcross(context, live, { kind: 'broadcast', id }, null)
    expect(first).toMatchObject({ is: 'done', replaced: false, alongside: expect.arrayContaining(['the segment “Keen”']) as string[] })
    expect(copyAcross(context, live, { kind: 'broadcast', id }, null)).toEqual({ is: 'asks', name: 'Winter papers' })
    expect(copyAcross(context, live, { kind: 'broadcast', id }, true)).toMatchObject({ is: 'done', replaced: true })
    expect(allBroadcasts(live.db)).toHaveLength(1)
    visit(context, 'ada@example.com')
    await scheduleBroadcast(context, id)
    await moveTo(context, thursdayNoon + HOUR)
    // Back again: what was sent there stays, and a draft stands beside it.
    expect(copyAcross(live, context, { kind: 'broadcast', id: allBroadcasts(live.db)[0]!.id }, null)).toMatchObject({
      is: 'done', replaced: false,
    })
    expect(allBroadcasts(context.db).map(({ name, state }) => [name, state])).toEqual([
      ['Winter papers', 'draft'], ['Winter papers', 'sent'],
    ])
  })
})

it('as an email it opens in any mail program as one that is to be sent, with its file, and counts nothing', async () => {
  const { context, id } = await written()
  const parsed = await PostalMime.parse(Buffer.from(await broadcastEml(context, id)))
  expect([
    parsed.subject, parsed.from?.address, parsed.headers.find(({ key }) => key === 'x-unsent')?.value,
    parsed.attachments.map(one => one.filename),
  ])
    .toEqual(['Winter papers, friend', 'ines@saltmarsh.example.com', '1', ['kit.pdf']])
  expect(parsed.html).toContain('https://saltmarsh.example.com/papers')
  expect(parsed.html).not.toMatch(/\/(l|o)\/[\w.-]{20,}/)
  expect(await broadcastHtml(context, id)).toContain('Six new papers.')
})
