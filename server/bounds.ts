/** Whether a body is of a size that is worth checking: counted in one pass, before any shape is looked at. */
import type Joi from 'joi'
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
const known = new WeakMap<Joi.Schema, Limits>()

interface Described {
  type?: string, keys?: Record<string, Described>, items?: Described[], rules?: { name: string, args?: { limit?: unknown } }[],
  [other: string]: unknown,
}

export function limitsOf(schema: Joi.Schema): Limits {
  let limits = known.get(schema)
  if (!limits) {
    const found = new Map<string, number>()
    collect(schema.describe() as Described, '', found)
    known.set(schema, limits = found)
  }
  return limits
}

function collect(node: unknown, name: string, found: Map<string, number>): void {
  if (typeof node !== 'object' || node === null) return
  if (Array.isArray(node)) {
    for (const one of node) collect(one, name, found)
    return
  }
  const described = node as Described
  if (described.type === 'array') {
    const limit = described.rules?.find(rule => rule.name === 'max')?.args?.limit
    found.set(name, Math.max(found.get(name) ?? 0, typeof limit === 'number' ? limit : MOST_ITEMS))
  }
  for (const [key, value] of Object.entries(described)) {
    if (key === 'keys') for (const [child, schema] of Object.entries(value as Record<string, Described>)) collect(schema, child, found)
    else collect(value, name, found)
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
