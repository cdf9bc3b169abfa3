/** The two ways in which what somebody typed could be taken for something else. */

const HTML: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, char => HTML[char]!)
}

/** Keeps a typed `{` from opening a Liquid tag, even where it meets one that we wrote. */
export function escapeLiquid(text: string): string {
  return text.replaceAll('{', `{{ '{' }}`)
}
