/** Making, renaming and deleting fields, and what someone's field says. */
import type { FieldInput } from '#core/people/field'
import { countHaving, countValues, endField, findField, findFieldByName, insertField, updateField } from '#data/fields'
import type { WorkspaceContext } from '../context'
import { clearAway } from '../inner/clearing'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

/**
 * Renaming is safe: everything that uses a field knows it by its number. A kind never changes; a choice that someone has cannot be taken
 * out.
 */
export function saveField(context: WorkspaceContext, id: number | null, input: FieldInput): number {
  const { db } = context
  const field: FieldInput = {
    ...input, name: tidy(input.name), label: tidy(input.label) || tidy(input.name),
    choices: input.kind === 'choice' ? input.choices.map(tidy).filter(Boolean) : [],
  }
  const problems: FieldProblem[] = []
  if (field.name === '') problems.push({ field: 'name', problem: 'Give the field a name.' })
  if (field.kind === 'choice' && field.choices.length === 0) {
    problems.push({ field: 'choices', problem: 'Enter at least one choice, one per line.' })
  }
  const doubled = field.choices.find((choice, index) =>
    field.choices.findIndex(other => other.toLowerCase() === choice.toLowerCase()) !== index)
  if (doubled !== undefined) problems.push({ field: 'choices', problem: `“${doubled}” is there twice.` })
  return transact(context, () => {
    const other = findFieldByName(db, field.name)
    if (other && other.id !== id) problems.push({ field: 'name', problem: `There is already a field called “${other.name}”.` })
    const before = id === null ? null : findField(db, id)
    if (before === undefined) throw new NotThere('This field no longer exists.')
    if (before && before.kind !== field.kind) {
      problems.push({ field: 'kind', problem: 'The type of a field cannot change. Make a new field instead.' })
    }
    if (before) {
      const lost = before.choices.filter(choice => !field.choices.includes(choice))
        .map(choice => ({ choice, people: countHaving(db, before.id, choice) })).find(({ people }) => people > 0)
      if (lost) problems.push({
        field: 'choices',
        problem: `${lost.people === 1 ? '1 person has' : `${lost.people} people have`} “${lost.choice}”. It cannot be removed while they do.`,
      })
    }
    if (problems.length > 0) throw new InputProblem(problems)
    if (id === null) return insertField(db, field, context.clock.now())
    updateField(db, id, field)
    return id
  })
}

/** `known` is how many people were said to lose what is known of them; another number than said asks once more. */
export function removeField(context: WorkspaceContext, id: number, known: number): void {
  const { db } = context
  transact(context, () => {
    if (!findField(db, id)) throw new NotThere('This field no longer exists.')
    refuseIfNeeded(db, { kind: 'field', id })
    const people = countValues(db, id)
    if (people !== known) throw new NotNow(
      `Now it is known for ${people === 1 ? '1 person' : `${people} people`}. Check the number and confirm again.`,
    )
    endField(db, id)
    clearAway(db, { what: 'field', thingId: id, eventId: null }, context.clock.now())
  })
}
