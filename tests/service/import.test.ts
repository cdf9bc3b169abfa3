import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { keysIn } from '#runtime/keys'
import type { ImportSpec, Target } from '#core/exchange/importing'
import { eventsOfPerson } from '#data/events'
import { allFields, fieldOfPerson } from '#data/fields'
import { findList, findListByName, findTag, hasTag, membership, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPersonByKey } from '#data/people'
import { leave } from '#usecases/arrive/leave'
import type { WorkspaceContext } from '#usecases/context'
import { correctPerson, giveTagByHand, leaveListByHand, markUnreachable } from '#usecases/know/byHand'
import { taskView } from '#usecases/know/doToMany'
import { erasePerson } from '#usecases/know/erase'
import { saveField } from '#usecases/know/fields'
import { importView, receiveImport } from '#usecases/know/importFile'
import { beginImport, oddRowsCsv } from '#usecases/know/importPeople'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { exportWriter } from '#usecases/views/exportPeople'
import { workOnTask } from '#usecases/time/tasks'
import { importPlan } from '#usecases/views/importPlan'
import { copyOf, everyRow } from './dump'
import { buildChild } from './killing'
import { SOAK, sized } from '../soak'
import { temporaryFolder } from '../temporary'
import { furnish, HOUR, moveTo, openContext, thursdayNoon, visit } from './workshop'

const file = (text: string, fileName = 'people.csv') => ({
  fileName, bytes: new Uint8Array(Buffer.from(text)), encoding: null, delimiter: null,
})

const spec = (targets: (Target | Target['kind'])[], more: Partial<ImportSpec> = {}): ImportSpec => ({
  columns: targets.map(target => ({
    target: typeof target === 'string' ? { kind: target } as Target : target, dateOrder: 'day-month-year',
  })),
  listIds: [], tagIds: [], source: 'fair', starts: false, known: 'keep',
  consent: { kind: 'given', origin: 'on paper at the fair', wording: 'Letters, please.', date: '2026-05-02' }, ...more,
})

const outcomes = (context: WorkspaceContext, taskId: number) =>
  Object.fromEntries(taskView(context, taskId).outcomes.map(({ outcome, people }) => [outcome, people]))

function run(context: WorkspaceContext, id: number, given: ImportSpec): number {
  const taskId = beginImport(context, id, given)
  while (workOnTask(context));
  return taskId
}

describe('a file that comes in', () => {
  const problem = async (text: string | Uint8Array) => {
    const context = openContext()
    const refusal = await receiveImport(context, {
      ...file(''), bytes: typeof text === 'string' ? new Uint8Array(Buffer.from(text)) : text,
    }).then(() => '', error => (error as Error).message)
    // Whatever is refused leaves nothing behind.
    expect(context.db.prepare('SELECT (SELECT count(*) FROM imports) + (SELECT count(*) FROM import_rows) AS n').get()).toEqual({
      n: refusal === '' ? expect.any(Number) as number : 0,
    })
    return refusal
  }

  it('is read whatever its signs: quotes, newlines in cells, a mark, semicolons, empty and doubled names, blank lines', async () => {
    const context = openContext()
    const id = await receiveImport(
      context, file('﻿email;name;;name\r\n"ada@example.com";"Ada; the ""first"""\r\n\r\nbo@example.com;"Bo\nline two";x;y\n'),
    )
    expect(importView(context, id)).toMatchObject({
      rows: 2, encoding: 'utf-8', delimiter: ';',
      columns: [
        { name: 'email', samples: ['ada@example.com', 'bo@example.com'] }, { name: 'name', samples: ['Ada; the "first"', 'Bo\nline two'] },
        { name: 'column 3', samples: ['x'] }, { name: 'name (2)', samples: ['y'] },
      ],
    })
    // The row number is what a spreadsheet shows: the blank line counts.
    expect(context.db.prepare('SELECT n, row_number AS row FROM import_rows').all()).toEqual([{ n: 1, row: 2 }, { n: 2, row: 4 }])
    const wide = await receiveImport(context, {
      ...file(''), bytes: new Uint8Array(Buffer.from('﻿email\tname\nzoë@example.com\tZoë\n', 'utf16le')),
    })
    expect(importView(context, wide)).toMatchObject({ encoding: 'utf-16le', delimiter: '\t', columns: [{}, { samples: ['Zoë'] }] })
    const old = await receiveImport(context, {
      ...file(''), bytes: new Uint8Array(Buffer.from('email,name\r\nz@example.com,Zo\xEB \x80\r\n', 'latin1')),
    })
    expect(importView(context, old)).toMatchObject({ encoding: 'windows-1252', columns: [{}, { samples: ['Zoë €'] }] })
    // A newer file takes the place of one that was never begun.
    expect(context.db.prepare('SELECT count(*) AS n FROM imports').get()).toEqual({ n: 1 })
    const headless = await receiveImport(context, file('ada@example.com,Ada\nbo@example.com,Bo'))
    expect(importView(context, headless)).toMatchObject({
      rows: 2, columns: [{ name: 'column 1' }, { name: 'column 2' }], guess: [{ target: { kind: 'address' } }, {}],
    })
  })

  it('is refused whole where it is not a table of people, and says why', async () => {
    expect(await problem('')).toBe('The file is empty.')
    expect(await problem('email,name\n')).toMatch(/no rows/)
    expect(await problem('name,town\nAda,Porto\n')).toBe('No column holds email addresses. It has name, town.')
    expect(await problem('{"people": [{"name": "Ada"}]}\nand more\n')).toMatch(/No column holds email addresses/)
    expect(await problem('email,name\nada@example.com,"Ada\nbo@example.com,Bo\n')).toMatch(/quote that opens in row 2 never closes/)
    expect(await problem(new Uint8Array(Buffer.from('PK\x03\x04', 'latin1')))).toMatch(/save it as CSV/)
    expect(await problem(`email\n${'x'.repeat(50_000_000)}`)).toMatch(/Row 2 is longer than a million letters/)
    expect(await problem('email,name\nada@example.com,Ada\n')).toBe('')
  })
})

describe('an import', () => {
  it('does what its plan said, row for row: new, updated, unchanged, refused', async () => {
    const { context, listId, tagId } = await furnish(openContext())
    const fieldId = saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    const other = saveList(context, null, { name: 'other', publicName: '', description: '' })
    const [stays, left] = [visit(context, 'stays@example.com', 'Stella'), visit(context, 'left@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, emailsOfPerson(context.db, left)[0]!.id, { what: 'everything' })
    leave(context, emailsOfPerson(context.db, stays)[0]!.id, { what: 'list', listId })
    const erased = visit(context, 'erased@example.com')
    erasePerson(context, erased)
    const id = await receiveImport(context, file([
      'email,name,birthday,country,labels',
      'new@example.com,Nia,31/12/1980,Portugal,"likes: coptic, fair"',
      'STAYS@example.com,Somebody,,PT,',
      'left@example.com,,,,',
      'erased@example.com,,,,',
      'not an address,,,,',
      'bad@example.com,,31/02/1980,,',
      'new@example.com,Nia,31/12/1980,Portugal,',
      'new@example.com,,,,news',
    ].join('\n')))
    const given = spec(
      ['address', 'first-name', { kind: 'field', fieldId }, 'country', 'tags'], { listIds: [listId, other], tagIds: [tagId] },
    )
    const plan = importPlan(context, { id, spec: given })
    expect(plan).toMatchObject({
      new: 1, updated: 2, unchanged: 1, refused: 4, newTags: ['likes: coptic', 'fair', 'news'], begins: [], withoutConsent: 0,
    })
    expect(plan.firstRefused.map(({ row }) => row)).toEqual([4, 5, 6, 7])
    const before = context.db.prepare('SELECT count(*) AS n FROM outbox').get()
    const taskId = run(context, id, given)
    expect(outcomes(context, taskId)).toEqual({ new: 1, updated: 2, unchanged: 1, refused: 4 })
    const nia = findPersonByKey(context.db, 'new@example.com')!
    expect(nia).toMatchObject({
      firstName: 'Nia', status: 'active', country: 'PT', source: 'import:fair', consentAt: Date.UTC(2026, 4, 2, 11),
    })
    expect([
      fieldOfPerson(context.db, fieldId, nia.id), membership(context.db, listId, nia.id), hasTag(context.db, tagId, nia.id),
    ]).toEqual(['1980-12-31', 'joined', true])
    expect(eventsOfPerson(context.db, nia.id).every(event => event.causeId !== null)).toBe(true)
    // What they did themselves stays: the name they gave, the list they left.
    expect(findPersonByKey(context.db, 'stays@example.com')).toMatchObject({ firstName: 'Stella', country: 'PT' })
    expect([membership(context.db, listId, stays), membership(context.db, other, stays)]).toEqual(['left', 'joined'])
    expect(findPersonByKey(context.db, 'left@example.com')!.status).toBe('unsubscribed')
    expect(findPersonByKey(context.db, 'erased@example.com')).toBeUndefined()
    // Told to begin nothing, it began nothing.
    expect(context.db.prepare('SELECT count(*) AS n FROM outbox').get()).toEqual(before)
    const refused = [...oddRowsCsv(context, id)].join('')
    expect(refused.split('\r\n').slice(0, 2)).toEqual([
      'email,name,birthday,country,labels,row,came in,reason',
      'left@example.com,,,,,4,no,"They have unsubscribed. Only they can come back, by opting in again."',
    ])
    // The same file once more changes nothing.
    const again = await receiveImport(context, file('email\nnew@example.com\nstays@example.com'))
    expect(outcomes(context, run(context, again, spec(['address'], { listIds: [listId, other], tagIds: [tagId] })))).toEqual({
      unchanged: 2,
    })
    expect(() => beginImport(context, again, given)).toThrow('being imported already')
    // What a file said is not kept once it is worked off, nor of a refused one who is erased.
    expect(context.db.prepare(`SELECT count(*) AS n FROM import_rows WHERE outcome <> 'refused' AND cells IS NOT NULL`).get()).toEqual({
      n: 0,
    })
    erasePerson(context, left)
    expect([...oddRowsCsv(context, id)].join('')).not.toContain('left@example.com')
  })

  it('begins courses where it may, never as asked-for mail; without a record of consent it holds back where one is needed', async () => {
    const { context, tagId, listId } = await furnish(openContext())
    const id = await receiveImport(context, file('email,country\nde@example.com,DE\nus@example.com,US\n'))
    const given = spec(['address', 'country'], { tagIds: [tagId], starts: true, consent: { kind: 'none' } })
    expect(importPlan(context, { id, spec: given })).toMatchObject({
      begins: [{ course: 'Fold, Sew, Cover', people: 2 }], withoutConsent: 1,
    })
    run(context, id, given)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    const fate = (key: string) => emailsOfPerson(
      context.db, findPersonByKey(context.db, key)!.id,
    ).map(({ status, reason, askedFor }) => ({ status, reason, askedFor }))[0]
    expect(fate('de@example.com')).toEqual({ status: 'held back', reason: 'no-consent', askedFor: 0 })
    expect(fate('us@example.com')).toMatchObject({ status: 'handed over', askedFor: 0 })
    // Whom the owner took off a list may be put on it by an import.
    const us = findPersonByKey(context.db, 'us@example.com')!.id
    run(context, await receiveImport(context, file('email\nus@example.com')), spec(['address'], { listIds: [listId] }))
    leaveListByHand(context, us, listId)
    run(context, await receiveImport(context, file('email\nus@example.com')), spec(['address'], { listIds: [listId] }))
    expect(membership(context.db, listId, us)).toBe('joined')
  })

  it('D8: of everybody from another workspace brings each with what they were on, and revives nobody', async () => {
    const old = openContext()
    const { listId, tagId } = await furnish(old)
    const odd = saveField(old, null, { name: '=cmd', label: '', kind: 'text', choices: [] })
    const sums = saveTag(old, null, {
      name: 'sums, "large"', note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS,
    })
    const people = ['stays', 'left', 'bounced', 'complained', 'left-list'].map(name => visit(old, `${name}@example.com`))
    await moveTo(old, thursdayNoon + HOUR)
    leave(old, emailsOfPerson(old.db, people[1]!)[0]!.id, { what: 'everything' })
    markUnreachable(old, people[2]!, 'bounced', 'it came back')
    markUnreachable(old, people[3]!, 'complained', 'they wrote so')
    leave(old, emailsOfPerson(old.db, people[4]!)[0]!.id, { what: 'list', listId })
    giveTagByHand(old, people[0]!, sums)
    correctPerson(old, people[0]!, { firstName: '', zone: null, country: null, fields: { [odd]: '-2+3' } })
    const writer = exportWriter(old, ['firstName', 'status', 'tags', 'lists', 'left', `field-${odd}`])
    const csv = writer.head + writer.lines(people)

    const context = openContext()
    const id = await receiveImport(context, file(csv))
    saveField(context, null, { name: '=cmd', label: '', kind: 'text', choices: [] })
    const { guess, columns } = importView(context, id)
    expect(columns.map(({ name }) => name)).toContain('=cmd')
    expect(guess.map(({ target }) => target.kind)).toEqual(['address', 'first-name', 'status', 'tags', 'lists', 'lists-left', 'field'])
    const given = { ...spec([]), columns: guess }
    const without = {
      ...given,
      columns: guess.map(column => column.target.kind === 'status' ? { ...column, target: { kind: 'nothing' as const } } : column),
    }
    // Left unmatched, it is asked about before anybody comes in.
    expect(() => beginImport(context, id, without)).toThrow('seems to say who has left')
    expect(importPlan(context, { id, spec: { ...without, nobodyLeft: true } })).toMatchObject({ gone: 0 })
    expect(importPlan(context, { id, spec: given })).toMatchObject({ new: 5, gone: 3 })
    expect(outcomes(context, run(context, id, given))).toEqual({ new: 5 })
    const standing = (name: string) => findPersonByKey(context.db, `${name}@example.com`)!
    expect(['stays', 'left', 'bounced', 'complained', 'left-list'].map(name => standing(name).status)).toEqual([
      'active', 'unsubscribed', 'bounced', 'complained', 'active',
    ])
    const list = findListByName(context.db, findList(old.db, listId)!.name)!.id
    expect(['stays', 'left', 'left-list'].map(name => membership(context.db, list, standing(name).id))).toEqual([
      'joined', 'joined', 'left',
    ])
    const tags = tagsOfPerson(context.db, standing('stays').id).map(({ name }) => name)
    expect(tags.sort()).toEqual([findTag(old.db, tagId)!.name, 'sums, "large"'].sort())
    expect(fieldOfPerson(context.db, allFields(context.db)[0]!.id, standing('stays').id)).toBe('-2+3')
    // The same file once more changes nothing.
    const again = await receiveImport(context, file(csv))
    expect(outcomes(context, run(context, again, given))).toEqual({ unchanged: 5 })
  })

  it('killed at any row and resumed, ends the same to the byte as one that ran through', async () => {
    const folder = temporaryFolder()
    keysIn(folder)
    const { context, listId, tagId } = await furnish(openContext({ file: join(folder, 'practice.db') }))
    const ROWS = sized(900, 1500)
    const lines = Array.from({ length: ROWS }, (_, n) => n % 17 === 3 ? `broken ${n},x` : `p${n % (ROWS - 300)}@example.com,P${n}`)
    const id = await receiveImport(context, file(`email,name\n${lines.join('\n')}`))
    beginImport(context, id, spec(['address', 'first-name'], { listIds: [listId], tagIds: [tagId], starts: true, known: 'replace' }))
    context.db.close()
    const [through, killed] = [copyOf(folder), copyOf(folder)]
    const child = await buildChild()
    /** Plays on, and dies in the middle of the nth row it comes to. */
    const once = (data: string, nth: number) => new Promise<NodeJS.Signals | null>((resolve) => {
      spawn(process.execPath, [child], {
        env: { ...process.env, PORCH_DATA: data, MODE: 'practice', KILL_AT: 'row', KILL_NTH: String(nth) },
        stdio: ['ignore', 'ignore', 'inherit'],
      }).on('exit', (_, signal) => resolve(signal))
    })
    // In the first bit, at its end, right after it, and in a later one.
    const NTHS = SOAK ? [1, 133, 251, 7, 249, 277, 2, 100] : [1, 249, 277]
    expect(await once(through, 0)).toBe(null)
    let kills = 0
    for (const nth of NTHS) if (await once(killed, nth) === 'SIGKILL') kills++
    expect(kills).toBe(NTHS.length)
    expect(await once(killed, 0)).toBe(null)
    const [a, b] = [everyRow(through), everyRow(killed)]
    expect(a.people!.length).toBeGreaterThan(ROWS / 2)
    expect(a.mailbox!.length).toBeGreaterThan(ROWS / 2)
    for (const [table, rows] of Object.entries(a)) expect(rows.filter((row, n) => row !== b[table]![n]).slice(0, 3), table).toEqual([])
    expect(Object.values(b).flat().length).toBe(Object.values(a).flat().length)
  })
})
