/** What the owner makes, kept and changed by programs: read, brought elsewhere, changed, published, started and stopped. */
import { describe, expect, it } from 'vitest'
import { newRule } from '#core/rules/rule'
import { SCOPES } from '#core/views/keys'
import { emailsOfPerson } from '#data/outbox'
import { enrolmentsOfPerson } from '#data/enrolments'
import { hasTag } from '#data/marks'
import { fromZip, toZip } from '#runtime/zip'
import { answerProgram, keyOf } from '#server/open/answer'
import { DEFINITION_OPERATIONS } from '#server/open/definitions'
import { makeKey } from '#usecases/api/keys'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveLink } from '#usecases/know/links'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { saveSegment } from '#usecases/know/segments'
import { openShop } from './shop'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

/** Asks as a program with every scope would. What is answered is held against its description. */
function programOf(context: Workshop) {
  const { secret } = makeKey(context, { name: 'a program', scopes: [...SCOPES] }, thursdayNoon)
  return async <Body = Record<string, unknown>>(
    method: string, path: string, said: unknown = undefined, query: Record<string, unknown> = {}, once: string | null = null,
  ): Promise<{ status: number, body: Body }> => {
    const found = keyOf(context, `Bearer ${secret}`, thursdayNoon)
    if ('refused' in found) throw new Error('The key is refused')
    const bytes = said instanceof Uint8Array ? said : new TextEncoder().encode(JSON.stringify(said) ?? '')
    const answer = await answerProgram(context, found.key, { method, path, query, idempotencyKey: once, bytes }, thursdayNoon)
    const operation = DEFINITION_OPERATIONS.find(one => one.method === method && one.path === path.replace(/\d+/, '{id}'))
    if (answer.status < 300 && operation?.answer) {
      expect(operation.answer.validate(answer.body, { convert: false }).error?.message, path).toBeUndefined()
    }
    return { status: answer.status, body: answer.body as Body }
  }
}

interface Read { id: number, revision: string, state: string, definition: { name: string, names: object, draft: Record<string, unknown> } }
interface Brought { id: number, made: string[], lost: string[] }

describe('what is made here', () => {
  it('can be read and brought into another workspace, where it reads the same; what it names is made or found there by name', async () => {
    const shop = await openShop(await furnish(openContext()))
    const { context, tagId, interestId, listId, pageId, courseId } = shop
    const ruleMade = await saveRule(context, null, newRule({ kind: 'got-tag', thingId: interestId }, [{ kind: 'join-list', listId }]))
    const linkId = saveLink(context, null, { name: 'Coptic', url: 'https://saltmarsh.example.com/coptic', note: '', does: [
      { kind: 'give-tag', tagId: interestId },
    ], asks: false })
    const condition = { kind: 'all' as const, of: [{ kind: 'tag' as const, tagId, since: null }] }
    const segmentId = saveSegment(context, null, { name: 'Kit', note: 'Who took it.', condition })
    const here = programOf(context)
    const there = programOf(openContext())
    // What others name comes first.
    const all: [area: string, id: number][] = [
      ['segments', segmentId], ['links', linkId], ['courses', courseId], ['pages', pageId], ['rules', (ruleMade as { id: number }).id],
    ]
    const { offers } = (await here<{ offers: { id: number }[] }>('GET', '/offers')).body
    for (const [area, id] of [...all, ['offers', offers[0]!.id]] as const) {
      const read = await here<Read>('GET', `/${area}/${id}`)
      expect(read.status, area).toBe(200)
      const made = await there<Brought>('POST', `/${area}`, read.body.definition)
      expect([made.status, made.body.lost], `${area}: ${JSON.stringify(made.body)}`).toEqual([201, []])
      const again = await there<Read>('GET', `/${area}/${made.body.id}`)
      const draft = area === 'rules'
        ? { ...read.body.definition, draft: { ...read.body.definition.draft, on: false } }
        : read.body.definition
      expect(again.body.definition, area).toEqual(draft)
      expect(again.body.state, area).toBe(area === 'rules' ? 'off' : area === 'links' || area === 'segments' ? 'at-work' : 'draft')
    }
  })

  it('is refused where it names what is not there, is something else, or has numbers of its own, and nothing is left of it', async () => {
    const { context, courseId } = await furnish(openContext())
    const here = programOf(context)
    const tags = () => context.db.prepare('SELECT count(*) FROM tags').pluck().get()
    const before = tags()
    const link = (more: object) => ({
      format: 'keen-porch link', version: 1, name: 'Elsewhere', names: {
        tag: { 1: { name: 'brand new' } }, other: {}, list: {}, field: {},
      },
      draft: { url: 'https://example.com/x', note: '', does: [
        { kind: 'give-tag', tagId: 1 }, { kind: 'enrol', courseId: 2 },
      ], asks: false }, ...more,
    })
    const problem = async (body: unknown, path = '/links') => ((await here<{ problem: string }>('POST', path, body)).body.problem)
    expect(await problem(link({}))).toBe('The draft has numbers that no name belongs to: course 2.')
    expect(await problem(
      link({ names: { tag: { 1: { name: 'brand new' } }, list: {}, field: {}, other: { 2: { kind: 'course', name: 'Nowhere' } } } }),
    ))
      .toBe('Not here: the course “Nowhere”. Create it first, or leave it out.')
    expect(await problem(link({ format: 'keen-porch page' }))).toBe('The format is “keen-porch link”.')
    expect(await problem(link({ draft: { url: 'javascript:alert(1)', note: '', does: [], asks: false } }))).toMatch(/address|begin/i)
    expect(await problem(link({ draft: [] }))).toMatch(/object/)
    expect(await problem('nonsense', '/courses')).toMatch(/object/)
    expect(
      (await here('PUT', `/pages/${courseId + 99}`, link({ format: 'keen-porch page', draft: { slug: 'x', content: {} } }))).status,
    ).toBe(422)
    expect(tags()).toBe(before)
  })

  it('is made once for an idempotency key', async () => {
    const here = programOf(openContext())
    const segment = {
      format: 'keen-porch segment', version: 1, name: 'All', names: { list: {}, tag: {}, field: {}, other: {} },
      draft: { note: '', condition: { kind: 'all', of: [] } },
    }
    const first = await here<Brought>('POST', '/segments', segment, {}, 'k')
    expect((await here<Brought>('POST', '/segments', segment, {}, 'k')).body).toEqual(first.body)
    expect((await here('POST', '/segments', { ...segment, name: 'Other' }, {}, 'k')).status).toBe(422)
  })
})

describe('a course in version control', () => {
  it('is put as a folder of Markdown, is told what publishing moves, and then moves it; nothing goes twice', async () => {
    const { context, courseId } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }, email('one')),
      step('two', { kind: 'elapsed', count: 3, unit: 'days', from: 'previous' }, email('two')),
    ])
    const here = programOf(context)
    const person = visit(context, 'a@example.com')
    await moveTo(context, thursdayNoon + DAY)
    const folder = fromZip((await here<Uint8Array>('GET', `/courses/${courseId}/folder`)).body)
    const file = Object.keys(folder).find(name => name.includes('two'))!
    folder[file] = folder[file]!.replace('This is two.', 'This is two, reworded.')
    folder['course.yaml'] = folder['course.yaml']!.replace('count: 3', 'count: 1')
    const put = await here<{ changes: { inside: number, effects: { people: number, atOnce: number }[] } }>(
      'PUT', `/courses/${courseId}`, toZip(folder),
    )
    expect(put.status).toBe(200)
    expect(put.body.changes).toMatchObject({ inside: 1, effects: [{ fromStepId: 'two', toStepId: 'two', people: 1, atOnce: 1 }] })
    // Nothing of it counts before it is published.
    expect((await here<Read & { changed: boolean }>('GET', `/courses/${courseId}`)).body).toMatchObject({ state: 'at-work', changed: true })
    expect((await here('POST', `/courses/${courseId}/publish`, {})).body).toEqual({ moved: 1, goOn: 0 })
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(emailsOfPerson(context.db, person).map(({ itemId, plannedAt }) => [itemId, plannedAt]).sort()).toEqual([
      ['one', thursdayNoon], ['two', thursdayNoon + DAY],
    ])
  })

  it('is not overwritten where somebody else changed it since it was read', async () => {
    const { context, courseId } = await furnish(openContext())
    const here = programOf(context)
    const { revision, definition } = (await here<Read>('GET', `/courses/${courseId}`)).body
    const change = (name: string) => here('PUT', `/courses/${courseId}`, { ...definition, name }, { revision })
    expect((await change('Mine')).status).toBe(200)
    expect((await change('Theirs')).status).toBe(409)
    expect((await here<Read>('GET', `/courses/${courseId}`)).body.definition.name).toBe('Mine')
  })

  it('is started, stopped and let go on', async () => {
    const { context, courseId, tagId } = await furnish(openContext())
    const here = programOf(context)
    const { definition } = (await here<Read>('GET', `/courses/${courseId}`)).body
    const { id } = (await here<Brought>('POST', '/courses', { ...definition, name: 'Copy' })).body
    expect((await here('POST', `/courses/${id}/start`, { include: 'none' })).body).toEqual({ scheduledEntries: 0 })
    expect((await here('POST', `/courses/${id}/start`, {})).status).toBe(409)
    expect((await here('POST', `/courses/${id}/stop`)).status).toBe(204)
    const person = visit(context, 'a@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const inside = () => enrolmentsOfPerson(context.db, person).filter(row => row.courseId === id)
    expect([hasTag(context.db, tagId, person), inside().length, (await here<Read>('GET', `/courses/${id}`)).body.state]).toEqual([
      true, 0, 'off',
    ])
    expect((await here('POST', `/courses/${id}/resume`)).status).toBe(204)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(inside()).toHaveLength(1)
  })
})

it('a house rule made by a program acts once it is switched on, and not after it is switched off', async () => {
  const { context, interestId } = await furnish(openContext())
  const here = programOf(context)
  const given = saveTag(context, null, tag('given'))
  const rule = {
    format: 'keen-porch rule', version: 1,
    names: { tag: { 1: { name: 'interest: coptic' }, 2: { name: 'given' } }, list: {}, field: {}, other: {} },
    draft: { ...newRule({ kind: 'got-tag', thingId: 1 }, [{ kind: 'give-tag', tagId: 2 }]), note: '' },
  }
  const { id } = (await here<Brought>('POST', '/rules', rule)).body
  const gets = (address: string) => {
    const person = visit(context, address)
    giveTagByHand(context, person, interestId)
    return hasTag(context.db, given, person)
  }
  expect(gets('a@example.com')).toBe(false)
  expect((await here('PUT', `/rules/${id}/on`)).status).toBe(204)
  expect(gets('b@example.com')).toBe(true)
  expect((await here('DELETE', `/rules/${id}/on`)).status).toBe(204)
  expect(gets('c@example.com')).toBe(false)
})

it('a page and an offer are published, and an offer taken down; what is missing is told', async () => {
  const { context, pageId } = await openShop(await furnish(openContext()))
  const here = programOf(context)
  const { definition } = (await here<Read>('GET', `/pages/${pageId}`)).body
  const {
    id,
  } = (await here<Brought>('POST', '/pages', { ...definition, name: 'Second', draft: { ...definition.draft, slug: 'second' } })).body
  expect((await here('POST', `/pages/${id}/publish`)).body).toEqual({ number: 1 })
  const taken = await here<{ fields: { field: string }[] }>('PUT', `/pages/${id}`, definition)
  expect([taken.status, taken.body.fields.map(({ field }) => field)]).toEqual([422, ['slug']])
  const [offer] = (await here<{ offers: { id: number, state: string }[] }>('GET', '/offers')).body.offers
  expect(offer!.state).toBe('at-work')
  expect((await here('DELETE', `/offers/${offer!.id}/publish`)).status).toBe(204)
  expect((await here<Read>('GET', `/offers/${offer!.id}`)).body.state).toBe('draft')
  expect((await here('POST', `/offers/${offer!.id}/publish`)).status).toBe(200)
})
