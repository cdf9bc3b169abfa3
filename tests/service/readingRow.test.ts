/** Questions that wait for a reading thread: the newest of each asker, whatever order they come in. */
import { expect, it } from 'vitest'
import { askerOf, NOBODY, OutOfDate, ReadingRow } from '#server/reader/row'
import { Refused } from '#server/refused'

/** Answers one after another, each when told. */
function row(most = 10) {
  const told: (() => void)[] = []
  const asked: string[] = []
  const made = new ReadingRow<string>((question) => {
    asked.push(question)
    return new Promise(resolve => told.push(() => resolve(`${question}!`)))
  }, most)
  const answerNext = async () => {
    told.shift()!()
    await new Promise(setImmediate)
  }
  return { made, asked, answerNext }
}
const fate = (answer: Promise<unknown>) => answer.then(said => said as string, (error: Error) => error.constructor)

it('the newest question of an asker is answered, also where it came before the older one', async () => {
  const { made, asked, answerNext } = row()
  const first = fate(made.ask('under way', NOBODY))
  const newer = fate(made.ask('newer', askerOf('table-17 2')))
  const older = fate(made.ask('older', askerOf('table-17 1')))
  const others = fate(made.ask('of another', askerOf('table-18 1')))
  expect(await older).toBe(OutOfDate)
  const newest = fate(made.ask('newest', askerOf('table-17 3')))
  expect(await newer).toBe(OutOfDate)
  for (let n = 0; n < 3; n++) await answerNext()
  expect([await first, await others, await newest]).toEqual(['under way!', 'of another!', 'newest!'])
  expect(asked).toEqual(['under way', 'of another', 'newest'])
})

it('without a number the one that comes later is newer; nobody in particular replaces nothing, and no more wait than may', async () => {
  const { made, answerNext } = row(2)
  const first = fate(made.ask('a', NOBODY))
  const second = fate(made.ask('b', askerOf('old client')))
  const third = fate(made.ask('c', askerOf('old client')))
  expect(await second).toBe(OutOfDate)
  const fourth = fate(made.ask('d', NOBODY))
  expect(await fate(made.ask('e', NOBODY))).toBe(Refused)
  for (let n = 0; n < 3; n++) await answerNext()
  expect([await first, await third, await fourth]).toEqual(['a!', 'c!', 'd!'])
})
