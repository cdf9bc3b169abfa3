/** Whether a body is of a size that is worth checking: counted in one pass, before any shape is looked at. */
import type { Schema } from 'joi'
import Joi from './joi'
import { sayNumber } from '#core/stats/say'

/** More things than that (texts, numbers, lists, objects) are no draft of anybody's. */
export const MOST_NODES = 40_000
const MOST_DEPTH = 100
const MOST_KEYS = 1000
/** A list of which the schema does not say how long it may be. */
const MOST_ITEMS = 1000

export interface OutOfBounds { field: string, problem: string }

export interface Measured { nodes: number, outOfBounds: OutOfBounds | null }

/** How long lists may be, by the name they stand under: the longest that the schema allows anywhere under that name. */
type Limits = ReadonlyMap<string, number>
const known = new WeakMap<Schema, Limits>()

export function limitsOf(schema: Schema): Limits {
  let limits = known.get(schema)
  if (!limits) {
    const found = new Map<string, number>()
    collect(schema, '', found, new Map())
    known.set(schema, limits = found)
  }
  return limits
}

/** Read off the schema itself: its description is checked again at every depth, which takes hundreds of milliseconds for a course. */
function collect(part: unknown, name: string, found: Map<string, number>, seen: Map<Schema, Set<string>>): void {
  if (Array.isArray(part)) {
    for (const one of part) collect(one, name, found, seen)
  }
  else if (Joi.isSchema(part)) {
    // The same parts stand in many places: steps within steps.
    const names = seen.get(part) ?? new Set()
    if (names.has(name)) return
    seen.set(part, names.add(name))
    if (part.type === 'array') {
      const limit: unknown = part.$_getRule('max')?.args?.limit
      found.set(name, Math.max(found.get(name) ?? 0, typeof limit === 'number' ? limit : MOST_ITEMS))
    }
    for (const term of Object.values(part.$_terms)) collect(term, name, found, seen)
  }
  // A key with its schema, or what one depends on; what is of a class of its own holds no schema.
  else if (typeof part === 'object' && part !== null && Object.getPrototypeOf(part) === Object.prototype) {
    const under = 'key' in part && typeof part.key === 'string' ? part.key : name
    for (const value of Object.values(part)) collect(value, under, found, seen)
  }
}

/** Counts until something is out of bounds. */
export function measure(value: unknown, limits: Limits): Measured {
  let nodes = 0
  const waiting: { value: unknown, path: string, name: string, depth: number }[] = [{ value, path: '', name: '', depth: 0 }]
  const out = (field: string, problem: string): Measured => ({ nodes, outOfBounds: { field, problem } })
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value, path, name, depth } = next
    nodes++
    if (typeof value !== 'object' || value === null) continue
    if (depth > MOST_DEPTH) return out(path, 'This is nested too deeply.')
    const at = (key: string) => path === '' ? key : `${path}.${key}`
    if (Array.isArray(value)) {
      const most = limits.get(name) ?? MOST_ITEMS
      if (value.length > most) {
        return out(path, `At most ${sayNumber(most)} fit in here; ${sayNumber(value.length)} came.`)
      }
      if (nodes + waiting.length + value.length > MOST_NODES) return out(path, 'This is too large for one request.')
      for (const [n, one] of value.entries()) waiting.push({ value: one, path: at(String(n)), name, depth: depth + 1 })
      continue
    }
    const keys = Object.keys(value)
    if (keys.length > MOST_KEYS || nodes + waiting.length + keys.length > MOST_NODES) {
      return out(path, 'This is too large for one request.')
    }
    for (const key of keys) waiting.push({ value: (value as Record<string, unknown>)[key], path: at(key), name: key, depth: depth + 1 })
  }
  return { nodes, outOfBounds: null }
}
