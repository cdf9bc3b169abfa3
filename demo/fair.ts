/**
 * Two tables that came to Saltmarsh Bindery: guests of a fair who signed a paper, and an old notebook where nobody knows any more who
 * agreed to what.
 */
import { diceOf } from '#core/dice'
import type { ImportSpec } from '#core/exchange/importing'
import type { Condition } from '#core/audience/condition'
import type { WorkspaceContext } from '#usecases/context'
import { saveField } from '#usecases/know/fields'
import { receiveImport } from '#usecases/know/importFile'
import { beginImport } from '#usecases/know/importPeople'
import { saveSegment } from '#usecases/know/segments'
import type { Marks } from './marks'

const NAMES =
  'Abel Berta Cosima Dario Elin Fabio Gesa Henri Ilka Jorun Kasper Ludo Marit Nelo Orla Petra Quirin Rune Solveig Tomas Una Viggo Wera Xenia Ymir Zita'.split(' ')
const COUNTRIES = ['Portugal', 'Portugal', 'Spain', 'Germany', 'France', 'United Kingdom', 'United States', 'Brazil', '']

export function fields(context: WorkspaceContext): Marks['fieldIds'] {
  return {
    books: saveField(context, null, { name: 'books bound', label: 'How many books have you bound?', kind: 'number', choices: [] }),
    press: saveField(context, null, { name: 'has a press', label: 'Do you have a press?', kind: 'yes-no', choices: [] }),
    birthday: saveField(context, null, { name: 'birthday', label: 'Your birthday', kind: 'date', choices: [] }),
  }
}

/** Guests of the fair, as somebody typed them: some letters missing, one date that is none. */
export async function fairGuests(context: WorkspaceContext, { lettersId, fieldIds }: Marks): Promise<void> {
  const dice = diceOf(0xfa14)
  const two = (n: number) => String(n).padStart(2, '0')
  const rows = Array.from({ length: 72 }, (_, n) => {
    const name = NAMES[n % NAMES.length]!
    const address = n === 31 ? `${name}.guest` : `${name}.${['fair', 'guest', 'bench'][n % 3]}${n}@example.org`
    const birthday = n === 47
      ? '31/02/1979'
      : dice() < 0.5 ? `${two(1 + Math.floor(dice() * 28))}/${two(1 + Math.floor(dice() * 12))}/19${60 + Math.floor(dice() * 40)}` : ''
    return [
      address.toLowerCase(), name, COUNTRIES[Math.floor(dice() * COUNTRIES.length)], String(Math.floor(dice() * 7)),
      dice() < 0.3 ? 'yes' : 'no', birthday,
    ].join(';')
  })
  const { books, press, birthday } = fieldIds
  await bring(context, 'spring fair.csv', ['email;first name;country;books bound;has a press;birthday', ...rows], {
    columns: [
      { kind: 'address' }, { kind: 'first-name' }, { kind: 'country' }, { kind: 'field', fieldId: books },
      { kind: 'field', fieldId: press }, { kind: 'field', fieldId: birthday },
    ],
    listIds: [lettersId], source: 'spring fair', consent: {
      kind: 'given', origin: 'on paper, at the spring fair', wording: 'Yes, send me letters from the bench now and then.',
      date: '2026-05-09',
    },
  })
}

/** From before there was a porch: their countries are known, their consent is not. */
export async function oldNotebook(context: WorkspaceContext): Promise<void> {
  const dice = diceOf(0x01d)
  const rows = Array.from({ length: 24 }, (_, n) =>
    `${NAMES[(n * 7) % NAMES.length]!.toLowerCase()}.notebook${n}@example.net,${NAMES[(n * 7) % NAMES.length]},${COUNTRIES[Math.floor(dice() * COUNTRIES.length)]}`)
  await bring(context, 'old notebook.csv', ['email,name,country', ...rows], {
    columns: [{ kind: 'address' }, { kind: 'first-name' }, { kind: 'country' }], listIds: [], source: 'old notebook',
    consent: { kind: 'none' },
  })
}

type Wanted = Pick<ImportSpec, 'listIds' | 'source' | 'consent'> & { columns: ImportSpec['columns'][number]['target'][] }

async function bring(context: WorkspaceContext, fileName: string, lines: string[], { columns, ...wanted }: Wanted): Promise<void> {
  const id = await receiveImport(context, { fileName, bytes: new TextEncoder().encode(lines.join('\n')), encoding: null, delimiter: null })
  beginImport(context, id, {
    ...wanted, columns: columns.map(target => ({ target, dateOrder: 'day-month-year' })), tagIds: [], starts: false, known: 'keep',
  })
}

export function segments(
  context: WorkspaceContext, { copticId, longStitchId, marblingId, courseId, fieldIds }: Marks & { courseId: number },
): void {
  const who = (name: string, note: string, gets: Condition[], never: Condition[]) =>
    saveSegment(context, null, { name, note, condition: { kind: 'all', of: [{ kind: 'all', of: gets }, { kind: 'none', of: never }] } })
  const likes = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })
  who('Knows what to bind next', 'Clicked one of the three, and still reads.', [
    { kind: 'any', of: [likes(copticId), likes(longStitchId), likes(marblingId)] },
    { kind: 'last-read', by: 'reader', within: { kind: 'last-days', days: 30 } },
  ], [])
  who(
    'Came to the fair, not to the course', 'For the first broadcast: “You asked about the course”.',
    [{ kind: 'source', is: 'import:spring fair' }], [{ kind: 'course', courseId, is: 'ever', stepId: null }],
  )
  who(
    'Has bound three books or more', 'For the class on covers.',
    [{ kind: 'field', fieldId: fieldIds.books, test: { is: 'number', sign: '>=', number: 3 } }], [],
  )
}
