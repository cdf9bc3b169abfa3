import { describe, expect, it } from 'vitest'
import type { InputProblem } from '#usecases/problem'
import { checked } from '../../server/check'
import Joi from '../../server/joi'

describe('what is wrong with a field', () => {
  it('is said in plain words, and in those of its own where it has any', () => {
    const schema = Joi.object({
      search: Joi.string().max(3), name: Joi.string().required(), days: Joi.number().integer().min(1), share: Joi.number().max(100),
      tags: Joi.array().max(1), half: Joi.number().integer(), own: Joi.string().max(1).messages({ 'string.max': 'One letter.' }),
      whatever: Joi.number().min(5).required().messages({ '*': 'From 5.' }),
      none: Joi.string().min(10).messages({ '*': 'Choose a password.' }), huge: Joi.number(),
    })
    let said: Record<string, string> = {}
    try {
      checked(schema, {
        search: 'four', name: '', days: 0, share: 101, tags: [1, 2], half: 0.5, own: 'two', whatever: 4, none: '', huge: 9e99,
      })
    }
    catch (error) {
      said = Object.fromEntries((error as InputProblem).problems.map(({ field, problem }) => [field, problem]))
    }
    expect(said).toEqual({
      search: 'At most 3 letters fit here.', name: 'Type something here.', days: 'At least 1.', share: 'At most 100.',
      tags: 'At most 1 fit here.', half: 'Type a whole number.', own: 'One letter.', whatever: 'From 5.',
      none: 'Choose a password.', huge: 'That number is too large.',
    })
    expect(() => checked(Joi.object({ days: Joi.number() }), { days: 'x' })).toThrow(expect.objectContaining({
      problems: [{ field: 'days', problem: 'Type a number.' }],
    }))
  })
})
