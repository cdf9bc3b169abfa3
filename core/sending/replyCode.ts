/** What a mail server's answer is called: its reply code with the enhanced one, where it gives one (RFC 5321 section 4.2, RFC 3463). */

const CODES = /^([245]\d\d)(?:[ -]+([245]\.\d{1,3}\.\d{1,3})(?!\d))?/

/** `550 5.1.1` of `550 5.1.1 No such mailbox`; null for what no server said. */
export function replyCodeOf(text: string): string | null {
  const [, code, enhanced] = CODES.exec(text) ?? []
  return code === undefined ? null : enhanced === undefined ? code : `${code} ${enhanced}`
}
