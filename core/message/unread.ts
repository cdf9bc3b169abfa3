/** What was typed as a placeholder of some other program: here it is only words, and a reader would read it as it stands. */

/** As Liquid writes them, and many others. */
const SIGNS = /\{\{[^{}]{0,80}\}\}|\{%[^%]{0,80}%\}/

/** The first of them in these lines or this body, however deep; null for none. HTML of one's own counts, too. */
export function unreadIn(value: unknown): string | null {
  if (typeof value !== 'object' || value === null) return null
  const node = value as { type?: unknown, text?: unknown, attrs?: { label?: unknown, source?: unknown } }
  for (const text of [node.text, node.attrs?.label, node.attrs?.source]) {
    const found = typeof text === 'string' ? SIGNS.exec(text)?.[0] : undefined
    if (found) return found
  }
  for (const child of Object.values(value)) {
    const found = unreadIn(child)
    if (found !== null) return found
  }
  return null
}

export const sayUnread = (found: string): string =>
  `“${found}” is not filled in: readers would see it as it stands. Type @ to choose what stands there.`
