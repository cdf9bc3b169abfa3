/** What saves itself while somebody writes: nothing is lost or sent twice at once, and what is said of it is true. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeSaver } from '../../app/composables/saver'

/** A window with a text, a server that answers when it is told to, and a clock that is wound by hand. */
function window() {
  let text: string | null = null
  let waiting: { ms: number, act: () => void } | null = null
  const asked: { text: string, seen: string | undefined, answer(status: number): Promise<void> }[] = []
  const server = { text: 'first', revision: 'first' }
  let atOnce = 0
  const saver = makeSaver<{ status: number }>({
    text: () => text,
    save: (sent, seen) => new Promise((resolve, reject) => {
      if (++atOnce > 1) throw new Error('Two are sent at once.')
      asked.push({
        text: sent, seen, async answer(status) {
          asked.shift()
          atOnce--
          // 0 is an answer that was lost: the server has it all the same.
          if (status === 200 || status === 0) {
            if (seen !== undefined && seen !== server.revision && sent !== server.text) reject(Object.assign(new Error(), { status: 412 }))
            else {
              Object.assign(server, { text: sent, revision: sent })
              if (status === 0) reject(Object.assign(new Error(), { status }))
              else resolve(sent)
            }
          } else reject(Object.assign(new Error(), { status }))
          for (let n = 0; n < 8; n++) await Promise.resolve()
        },
      })
    }),
    problemOf: error => error as Error & { status: number },
    later(ms, act) {
      waiting = { ms, act }
    },
    never() {
      waiting = null
    },
  })
  const settle = async () => {
    for (let n = 0; n < 8; n++) await Promise.resolve()
  }
  return {
    saver, server, asked,
    open(first: string) {
      text = first
      saver.begin()
      saver.revision.value = first
    },
    type(next: string) {
      text = next
      saver.changed()
    },
    async ring() {
      const now = waiting
      waiting = null
      now?.act()
      await settle()
    },
    rings: () => waiting !== null,
    text: () => text,
  }
}

describe('a draft that saves itself', () => {
  it('what is taken back before it was sent is saved as it stands', async () => {
    const { saver, open, type, ring, asked, rings } = window()
    open('first')
    type('second')
    expect(saver.state.value).toBe('typing')
    type('first')
    expect([saver.state.value, rings(), asked.length]).toEqual(['saved', false, 0])
    await ring()
    expect(asked).toHaveLength(0)
  })

  it('what is taken back while it is on its way is sent after it', async () => {
    const { saver, open, type, ring, asked, server } = window()
    open('first')
    type('second')
    await ring()
    type('first')
    await asked[0]!.answer(200)
    expect([saver.state.value, server.text]).toEqual(['typing', 'second'])
    await ring()
    await asked[0]!.answer(200)
    expect([saver.state.value, server.text, saver.unsaved()]).toEqual(['saved', 'first', false])
  })

  it('what is refused is said until it is put right, and is not sent again by itself', async () => {
    const { saver, open, type, ring, asked, rings } = window()
    open('first')
    type('wrong')
    await ring()
    await asked[0]!.answer(422)
    expect([saver.state.value, rings(), saver.unsaved()]).toEqual(['failed', false, true])
    type('first')
    expect([saver.state.value, saver.problem.value]).toEqual(['saved', null])
  })

  it('another window is spoken of when another window wrote, and one of the two is kept', async () => {
    const { saver, open, type, ring, asked, server } = window()
    open('first')
    Object.assign(server, { text: 'theirs', revision: 'theirs' })
    type('mine')
    await ring()
    await asked[0]!.answer(412)
    expect([saver.state.value, await saver.flush(), asked.length]).toEqual(['elsewhere', false, 0])
    const kept = saver.keepMine()
    await Promise.resolve()
    await asked[0]!.answer(200)
    await kept
    expect([saver.state.value, server.text]).toEqual(['saved', 'mine'])
  })

  it('whatever is typed, taken back, lost on its way or answered late: in the end the server has what stands here', () => fc.assert(
    fc.asyncProperty(fc.array(fc.oneof(
      { weight: 4, arbitrary: fc.record({ do: fc.constant('type' as const), text: fc.constantFrom('first', 'a', 'b', 'c') }) },
      { weight: 2, arbitrary: fc.record({ do: fc.constant('ring' as const) }) },
      { weight: 1, arbitrary: fc.record({ do: fc.constant('flush' as const) }) },
      { weight: 3, arbitrary: fc.record({ do: fc.constant('answer' as const), status: fc.constantFrom(200, 200, 0, 503) }) },
    ), { maxLength: 40 }), async (acts) => {
      const one = window()
      one.open('first')
      for (const act of acts) {
        if (act.do === 'type') one.type(act.text)
        else if (act.do === 'ring') await one.ring()
        else if (act.do === 'flush') void one.saver.flush()
        else await one.asked[0]?.answer(act.status)
        // Never silent about what the server has not got, with nothing on its way to it.
        if (one.saver.state.value === 'saved') expect(one.text()).toBe(one.server.text)
        else expect(one.rings() || one.asked.length > 0).toBe(true)
      }
      for (let n = 0; n < 9; n++) {
        await one.asked[0]?.answer(200)
        await one.ring()
      }
      // Nobody else writes here, so no other window is spoken of.
      expect([one.saver.state.value, one.server.text]).toEqual(['saved', one.text()])
    }),
  ))
})
