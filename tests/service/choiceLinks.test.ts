/** A question in an email whose answers are links: what is chosen is noted, and can be chosen otherwise. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ChoiceNode } from '#core/message/content'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { NotThere } from '#usecases/problem'
import { isAnswer, recordClick } from '#usecases/reading/click'
import { chooseAgain, chosenView } from '#usecases/reading/choose'
import { play } from '#usecases/time/play'
import { linkLines } from '#usecases/views/links'
import { email, furnish, listeningCarrier, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const MINUTE = 60_000
const LABELS = ['Coptic', 'Long-stitch', 'Marbling']
const human = { agent: 'A browser', robot: false, certain: true }
const maybe = { ...human, certain: false }

async function asked({ onlyOne = true, tagged = true, mode = 'practice' }: {
  onlyOne?: boolean, tagged?: boolean, mode?: 'practice' | 'live',
} = {}) {
  const clock = { at: thursdayNoon }
  const context = openContext({ mode, clock, carrier: listeningCarrier() })
  const tags = LABELS.map(name => saveTag(context, null, tag(name)))
  const block: ChoiceNode = { type: 'choice', attrs: {
    choices: LABELS.map((label, n) => ({ label, hint: '', tagId: tagged ? tags[n]! : null })), says: 'You get its notes.', onlyOne,
  } }
  await furnish(context, () => [step('one', { kind: 'at-once' }, email('one', { body: { type: 'doc', content: [
    { type: 'paragraph', content: [{ type: 'text', text: 'Which?' }] }, block,
  ] } }))])
  const personId = visit(context, 'ada@example.com')
  const send = async () => {
    await play(context, clock.at)
    clock.at += 30 * MINUTE
    return emailsOfPerson(context.db, personId)[0]!.id
  }
  return { context, clock, tags, personId, send }
}
const chosen = (context: Workshop, id: number) =>
  chosenView(context, id, 0).answers.filter(({ isChosen }) => isChosen).map(({ label }) => label)

describe('a choice in an email', () => {
  it('is noted by a click, and another takes its place; none of its links stands in the library', async () => {
    const { context, tags, personId, send } = await asked()
    const id = await send()
    const has = () => tags.map(tagId => hasTag(context.db, tagId, personId))
    expect(isAnswer(context, id, 0)).toBe(true)
    recordClick(context, id, 1, human)
    expect([chosen(context, id), has(), chosenView(context, id, 1).says]).toEqual([
      ['Long-stitch'], [false, true, false], 'You get its notes.',
    ])
    chooseAgain(context, id, 1, 2)
    expect([chosen(context, id), has()]).toEqual([['Marbling'], [false, false, true]])
    chooseAgain(context, id, 1, null)
    expect([chosen(context, id), has()]).toEqual([[], [false, false, false]])
    expect(linkLines(context).map(({ name }) => name).filter(name => LABELS.includes(name))).toEqual([])
    expect(() => chooseAgain(context, id, 0, 7)).toThrow(NotThere)
    expect(() => chosenView(context, 4711, 0)).toThrow(NotThere)
  })

  it('that is changed before the first click was judged is the one that counts, also later', async () => {
    const { context, clock, tags, personId, send } = await asked({ mode: 'live' })
    const id = await send()
    recordClick(context, id, 0, maybe)
    expect(tags.some(tagId => hasTag(context.db, tagId, personId))).toBe(false)
    expect(chosen(context, id)).toEqual(['Coptic'])
    clock.at += 2000
    chooseAgain(context, id, 0, 1)
    clock.at += 60 * MINUTE
    await play(context, clock.at)
    expect([chosen(context, id), tags.map(tagId => hasTag(context.db, tagId, personId))]).toEqual([['Long-stitch'], [false, true, false]])
  })

  it('without a tag is remembered all the same; and where several can be chosen, each stays', async () => {
    const one = await asked({ tagged: false, onlyOne: false })
    const id = await one.send()
    for (const n of [0, 2]) recordClick(one.context, id, n, human)
    expect(chosen(one.context, id)).toEqual(['Coptic', 'Marbling'])
    chooseAgain(one.context, id, 0, null)
    expect(chosen(one.context, id)).toEqual([])
  })

  it('leaves, whatever is chosen and taken back in whatever order, the tag of the last; and after “none”, the tags of before', async () => {
    await fc.assert(fc.asyncProperty(
      fc.subarray([0, 1, 2]),
      fc.array(fc.record({ by: fc.constantFrom('click', 'page'), n: fc.constantFrom(0, 1, 2, null) }), { maxLength: 8 }),
      async (before, acts) => {
        const { context, clock, tags, personId, send } = await asked()
        for (const n of before) giveTagByHand(context, personId, tags[n]!)
        const id = await send()
        let last: number | null = null
        for (const { by, n } of acts) {
          clock.at += MINUTE
          if (by === 'page' || n === null) {
            chooseAgain(context, id, 0, n)
            last = n
          } else {
            recordClick(context, id, n, human)
            last = n
          }
        }
        const wanted = last === null ? before : [last]
        expect(tags.flatMap((tagId, n) => hasTag(context.db, tagId, personId) ? [n] : [])).toEqual(wanted)
        expect(chosen(context, id)).toEqual(last === null ? [] : [LABELS[last]])
      }), { numRuns: 60, seed: 20261130 })
  })
})
