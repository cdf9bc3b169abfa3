/** So that what somebody typed is not taken for something else. */

const HTML: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, char => HTML[char]!)
}
