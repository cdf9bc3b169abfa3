/** Finding things by a part of their name. */

/**
 * How well a name fits what is sought: 0 where it is the name, 1 where the name begins with it, 2 where a word of it does, 3 where it
 * stands somewhere in it, null where it does not. Both in the same kind of letters.
 */
export function fitOf(name: string, sought: string): 0 | 1 | 2 | 3 | null {
  const at = name.indexOf(sought)
  if (at < 0) return null
  if (name === sought) return 0
  if (at === 0) return 1
  return new RegExp(`[^\\p{L}\\p{N}]${sought.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')}`, 'u').test(name) ? 2 : 3
}
