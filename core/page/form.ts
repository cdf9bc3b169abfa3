/** The form of a page: what it asks, and what each answer gives. */
import type { Field, FieldValue } from '#core/people/field'
import { readField } from '#core/people/field'

/** A value that goes into a field. */
export interface FieldGift { fieldId: number, value: FieldValue }

export interface Choice {
  id: string
  label: string
  tagIds: number[]
  fields: FieldGift[]
}

/** Something asked besides the address and the first name. */
export type Ask =
  | { id: string, kind: 'field', fieldId: number, label: string, required: boolean }
  /** Each answer gives its tags and sets its fields. `many`: more than one may be chosen. */
  | { id: string, kind: 'choice', label: string, required: boolean, many: boolean, options: Choice[] }

/** A box to tick, apart from what the button agrees to. Its wording is kept with everybody who ticks it. */
export interface ConsentBox { id: string, wording: string, required: boolean, listIds: number[], tagIds: number[] }

export interface PageForm {
  firstName: 'no' | 'may' | 'must'
  asks: Ask[]
  /** With JavaScript the questions are shown one after the other, the address last; without it, all of them. */
  oneByOne: boolean
  boxes: ConsentBox[]
  buttonLabel: string
  /** Stands under the button and is kept, word for word, with everybody who presses it. */
  consentWording: string
}

export const newForm = (): PageForm => ({
  firstName: 'may', asks: [], oneByOne: false, boxes: [], buttonLabel: 'Send it to me',
  consentWording: 'You get emails from us, and can unsubscribe at any time.',
})

/** What was typed or chosen, by the id of what asked; several for a choice of many. */
export type Typed = Record<string, string[]>

export interface Answered {
  /** Of several values for one field the last counts. */
  fields: FieldGift[]
  /** The ids of what was chosen, by the id of its question. */
  chosen: Record<string, string[]>
  tagIds: number[]
  listIds: number[]
  /** Wordings of the boxes that were ticked. */
  agreed: string[]
}

/** Words of a choice's answers, and of a field's, longer than anybody types. */
const LONGEST = 500

/**
 * Reads what a form sent. Answers that were not offered are as good as none.
 * `problems` are told to the visitor, each beside what asked.
 */
export function readAnswers(
  form: PageForm, fields: ReadonlyMap<number, Pick<Field, 'kind' | 'choices'>>, typed: Typed,
): { answered: Answered, problems: { field: string, problem: string }[] } {
  const answered: Answered = { fields: [], chosen: {}, tagIds: [], listIds: [], agreed: [] }
  const problems: { field: string, problem: string }[] = []
  for (const ask of form.asks) {
    const given = (typed[ask.id] ?? []).map(text => text.slice(0, LONGEST).trim()).filter(text => text !== '')
    if (ask.kind === 'choice') {
      const chosen = ask.options.filter(option => given.includes(option.id)).slice(0, ask.many ? undefined : 1)
      if (chosen.length === 0 && ask.required) problems.push({ field: ask.id, problem: ask.many ? 'Choose at least one.' : 'Choose one.' })
      answered.chosen[ask.id] = chosen.map(({ id }) => id)
      answered.tagIds.push(...chosen.flatMap(option => option.tagIds))
      answered.fields.push(...chosen.flatMap(option => option.fields))
      continue
    }
    const field = fields.get(ask.fieldId)
    if (!field) continue
    if (field.kind === 'yes-no' && given.length === 0 && !ask.required) continue
    if (given.length === 0) {
      if (ask.required) problems.push({ field: ask.id, problem: 'Please fill this in.' })
      continue
    }
    const read = readField(field, given[0]!)
    if (read.ok) answered.fields.push({ fieldId: ask.fieldId, value: read.value })
    else problems.push({ field: ask.id, problem: read.problem })
  }
  for (const box of form.boxes) {
    if (typed[box.id]?.includes('yes')) {
      answered.listIds.push(...box.listIds)
      answered.tagIds.push(...box.tagIds)
      answered.agreed.push(box.wording)
    }
    else if (box.required) problems.push({ field: box.id, problem: 'Please tick this box to continue.' })
  }
  return { answered, problems }
}
