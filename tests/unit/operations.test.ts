import { expect, it } from 'vitest'
import { pathOf } from '#core/operations/operation'

it('the path of an operation has what is in the place of its names, as an address can hold it; one that is missing is said', () => {
  expect(pathOf('GET /courses')).toBe('courses')
  expect(pathOf('PUT /offers/:id/coupons/:couponId', { id: 3, couponId: 14 })).toBe('offers/3/coupons/14')
  expect(pathOf('POST /carrier/domains/:domain', { domain: 'bücher.example/a b?c' }))
    .toBe('carrier/domains/b%C3%BCcher.example%2Fa%20b%3Fc')
  expect(() => pathOf('GET /pages/:id')).toThrow('GET /pages/:id without :id')
  expect(() => pathOf('DELETE /courses/:id/rehearsals/:rehearsal', { id: 1 })).toThrow('without :rehearsal')
})
