import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fillBlanks, hasBlanks } from '#core/people/tag'
import { inRules } from '#core/people/replaceMark'
import { circleIn, DEEPEST_CHAIN, followsOf, NOTHING_FOLLOWS, rulesOfTag, sayPath, wokenBy, type Follows, type Rule } from '#core/rules/rule'

const numbered = (rules: Omit<Rule, 'id'>[]): Rule[] => rules.map((rule, n) => ({ ...rule, id: n + 1 }))
const rules = (...said: [tagId: number, follows: Partial<Follows>][]) => numbered(said.flatMap(([tagId, follows]) => rulesOfTag(tagId, { ...NOTHING_FOLLOWS, ...follows })))
const name = (id: number) => 'abcdefgh'[id - 1]!

describe('what follows from a tag', () => {
  it('is one rule each, and can be read back', () => {
    fc.assert(fc.property(fc.uniqueArray(fc.integer({ min: 2, max: 9 })), fc.uniqueArray(fc.integer({ min: 2, max: 9 })), fc.uniqueArray(fc.integer({ min: 2, max: 9 })), (gives, takes, drops) => {
      expect(followsOf(1, numbered(rulesOfTag(1, { gives, takes, drops })))).toEqual({ gives, takes, drops })
    }))
  })

  it('wakes each rule once from one root event, and ends twenty deep', () => {
    const three = rules([1, { gives: [2, 3] }], [2, { gives: [3] }])
    expect(wokenBy(three, { acted: new Set([1]), depth: 3 })).toEqual({ act: three.slice(1), cut: [] })
    expect(wokenBy(three, { acted: new Set([1]), depth: DEEPEST_CHAIN })).toEqual({ act: [], cut: three.slice(1) })
  })
})

describe('a circle', () => {
  it.each([
    ['getting gives itself by another', rules([1, { gives: [2] }], [2, { gives: [1] }]), 'getting “a” gives “b”, which gives “a”'],
    ['three layers down', rules([1, { gives: [2] }], [2, { gives: [3] }], [3, { gives: [2] }]), 'getting “b” gives “c”, which gives “b”'],
    ['losing loses itself', rules([1, { drops: [2] }], [2, { drops: [1] }]), 'losing “a” takes away “b”, which takes away “a”'],
    ['getting takes itself away by another', rules([1, { gives: [2] }], [2, { takes: [1] }]), 'getting “a” gives “b”, which takes away “a”'],
    ['getting takes away what it stands on', rules([1, { takes: [2] }], [2, { drops: [1] }]), 'getting “a” takes away “b”, which takes away “a”'],
  ])('%s', (_, given, path) => {
    const found = circleIn(given)
    expect(found && sayPath(found, name)).toBe(path)
  })

  it('is not where layers only lead on, or two tags take each other away', () => {
    expect(circleIn(rules([1, { gives: [2], takes: [3] }], [2, { gives: [4] }], [3, { takes: [1] }], [4, { takes: [3] }], [1, { drops: [2] }], [2, { drops: [4] }]))).toBeNull()
  })

  it('is found exactly where following the rules comes back', () => {
    const edge = fc.tuple(fc.integer({ min: 1, max: 5 }), fc.constantFrom('gives' as const, 'takes' as const, 'drops' as const), fc.integer({ min: 1, max: 5 })).filter(([a, , b]) => a !== b)
    fc.assert(fc.property(fc.uniqueArray(edge, { maxLength: 8, selector: one => one.join() }), (edges) => {
      const given = rules(...edges.map(([a, key, b]) => [a, { [key]: [b] }] as [number, Partial<Follows>]))
      // By brute force: everything that can come of each beginning, in any number of steps.
      const comesOf = (begin: string): Set<string> => {
        const found = new Set<string>()
        const walk = (at: string) => {
          for (const { when, then } of given) if (`${when.kind} ${when.tagId}` === at) for (const action of then) {
            const next = `${action.kind === 'give-tag' ? 'got-tag' : 'lost-tag'} ${action.tagId}`
            if (!found.has(next)) {
              found.add(next)
              walk(next)
            }
          }
        }
        walk(begin)
        return found
      }
      const back = [1, 2, 3, 4, 5].some(id => ['got-tag', 'lost-tag'].some((kind) => {
        const found = comesOf(`${kind} ${id}`)
        return found.has(`got-tag ${id}`) || found.has(`lost-tag ${id}`)
      }))
      return (circleIn(given) !== null) === back
    }))
  })
})

describe('a tag put in the place of another', () => {
  it('takes over its rules; what would follow from itself, or twice, goes', () => {
    const before = rules([1, { gives: [2, 3] }], [2, { gives: [3] }], [4, { gives: [1, 2] }])
    expect(inRules(before, { kind: 'tag', from: 1, to: 2 }).map(({ when, then }) => [when.tagId, then[0]!.tagId])).toEqual([[2, 3], [4, 2]])
    expect(inRules(before, { kind: 'tag', from: 2, to: null }).map(({ when, then }) => [when.tagId, then[0]!.tagId])).toEqual([[1, 3], [4, 1]])
  })
})

it('a name with blanks is filled in for the zone of the workspace', () => {
  const at = Date.UTC(2026, 10, 30, 23, 30)
  expect(fillBlanks('joined [month]', { at, zone: 'Europe/Lisbon', launch: null })).toBe('joined November 2026')
  expect(fillBlanks('joined [Month]', { at, zone: 'Europe/Berlin', launch: null })).toBe('joined December 2026')
  expect(fillBlanks('saw [launch] early', { at, zone: 'UTC', launch: 'Spring press' })).toBe('saw Spring press early')
  expect(fillBlanks('saw [launch] early', { at, zone: 'UTC', launch: null })).toBe('saw early')
  expect([hasBlanks('[month]'), hasBlanks('[monthly]'), hasBlanks('month')]).toEqual([true, false, false])
})
