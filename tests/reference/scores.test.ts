/**
 * Exponential decay by its closed form: what is there at the beginning times
 * one half for every half-life (E. Rutherford, F. Soddy, Philosophical Magazine
 * 4 (1902), 370-396, whose law it is; values from memory).
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decayed, pointsOf, reached, READY_SCORE, scoreAt, sinksBelow, withPoints, type Score } from '#core/score/score'
import { DAY } from '#core/time/zone'

describe('points lose their worth', () => {
  it.each([
    [100, 0, 100], [100, 60, 50], [100, 120, 25], [100, 30, 100 / Math.SQRT2], [100, 600, 100 / 1024], [-8, 60, -4], [3, 6, 3 * 0.933033],
  ])('%d points are, after %d days at a half-life of 60, %d', (points, days, worth) => {
    expect(decayed(points, 0, days * DAY, 60)).toBeCloseTo(worth, 5)
  })

  it('so that one number and its instant say as much as the whole past, in whatever order it was told', () => {
    const brought = fc.array(
      fc.record({ points: fc.integer({ min: -100, max: 100 }), at: fc.integer({ min: 0, max: 2000 * DAY }) }),
      { minLength: 1, maxLength: 30 },
    )
    fc.assert(fc.property(brought, fc.integer({ min: 1, max: 400 }), (list, life) => {
      const kept = list.reduce<Score | null>((score, { points, at }) => withPoints(score, points, at, life), null)!
      const now = 2000 * DAY
      const sum = list.reduce((total, { points, at }) => total + points * Math.pow(0.5, (now - at) / (life * DAY)), 0)
      expect(scoreAt(kept, now, life)).toBeCloseTo(sum, 6)
    }))
  })

  it('and a sum sinks below a threshold at one instant, not a millisecond earlier', () => {
    fc.assert(fc.property(fc.double({
      min: 1, max: 500, noNaN: true,
    }), fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 400 }), (value, least, life) => {
      const score = { value, at: 1_700_000_000_000 }
      const at = sinksBelow(score, least, life, score.at)
      if (value < least) expect(at).toBeNull()
      else expect([scoreAt(score, at! - 1, life) >= least, scoreAt(score, at!, life) < least]).toEqual([true, true])
    }))
    // Twice the threshold is one half-life above it.
    expect(sinksBelow({ value: 40, at: 0 }, 20, 60, 0)! / DAY).toBeCloseTo(60, 6)
  })
})

it('a threshold is reached from below only, each once', () => {
  expect([reached(0, 15, [15, 40]), reached(14.9, 41, [15, 40]), reached(15, 16, [15, 40]), reached(41, 14, [15, 40])]).toEqual([
    [15], [15, 40], [], [],
  ])
})

it('machines bring no points', () => {
  expect(['reader', 'prefetch', 'scanner'].map(detail => pointsOf({ kind: 'opened', detail }, READY_SCORE))).toEqual([1, 0, 0])
  expect([
    pointsOf({ kind: 'bought', detail: '4900 EUR' }, READY_SCORE), pointsOf({ kind: 'got-tag', detail: null }, READY_SCORE),
  ]).toEqual([20, 0])
})
