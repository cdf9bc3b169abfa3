/** Whether two definitions say the same, whatever the blocks of their emails are known by in the editor. */
import { dequal } from 'dequal'

/**
 * The editor gives each block an id as soon as somebody writes: that alone changes nothing that anybody reads. Only blocks keep one among
 * their attributes.
 */
export function withoutBlockIds(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withoutBlockIds)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).flatMap(([key, inner]) => {
    if (key !== 'attrs') return [[key, withoutBlockIds(inner)]]
    const { id: _, ...attrs } = inner as Record<string, unknown>
    return Object.keys(attrs).length > 0 ? [[key, withoutBlockIds(attrs)]] : []
  }))
}

export const saysTheSame = (one: unknown, other: unknown): boolean =>
  dequal(one, other) || dequal(withoutBlockIds(one), withoutBlockIds(other))
