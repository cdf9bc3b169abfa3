import Joi from 'joi'
import { describe, expect, it } from 'vitest'
import * as pages from '../../server/pageSchemas'
import * as rules from '../../server/ruleSchemas'
import * as other from '../../server/schemas'
import { limitsOf, measure } from '../../server/bounds'

type Limits = Record<string, number>

/** The longest list under each name, from what Joi says of a schema in the end: right, and far too slow for a server. */
function describedLimits(node: unknown, name = '', found: Limits = {}): Limits {
  if (Array.isArray(node)) {
    for (const one of node) describedLimits(one, name, found)
  }
  else if (typeof node === 'object' && node !== null) {
    const described = node as { type?: string, rules?: { name: string, args?: { limit?: number } }[] }
    if (described.type === 'array') {
      found[name] = Math.max(found[name] ?? 0, described.rules?.find(rule => rule.name === 'max')?.args?.limit ?? 1000)
    }
    for (const [key, value] of Object.entries(node)) {
      if (key === 'keys') for (const [child, schema] of Object.entries(value as object)) describedLimits(schema, child, found)
      else describedLimits(value, name, found)
    }
  }
  return found
}

describe('how long lists may be', () => {
  it('is read off a schema as it would be described', () => {
    const schemas = Object.values<unknown>({ ...rules, ...other, section: pages.section, ownMessage: pages.ownMessage })
      .filter((one): one is Joi.Schema => Joi.isSchema(one))
    expect(schemas.length).toBeGreaterThan(20)
    for (const schema of schemas) expect(Object.fromEntries(limitsOf(schema))).toEqual(describedLimits(schema.describe()))
  })

  it('is kept at every depth', () => {
    const limits = limitsOf(pages.section)
    expect(measure({ questions: Array(40).fill('q') }, limits).outOfBounds).toBeNull()
    expect(measure({ questions: Array(41).fill('q') }, limits).outOfBounds).toEqual({
      field: 'questions', problem: 'At most 40 fit in here; 41 came.',
    })
    expect(measure({ a: [{ questions: Array(41).fill('q') }] }, limits).outOfBounds?.field).toBe('a.0.questions')
  })
})
