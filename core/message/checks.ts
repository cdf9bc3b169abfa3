/**
 * What is looked at before an email leaves, while it is written. Each check is right or says what to do; none of them changes anything.
 * What cannot be known here (how wide a line is drawn, how much the finished email weighs) is told by whoever asks. A new check is an entry
 * of a file in ./checks, and its name here.
 */
import type { MessageContent } from './content'
import { files, links, oneCall, ownButton, pictures, versions } from './checks/blocks'
import type { Asked, Check, Finding } from './checks/check'
import { countdowns, coupons, offers } from './checks/selling'
import { footer, sender, weight } from './checks/sending'
import { dates, reading, shouting, subject, unread } from './checks/words'

/** In the order in which they are told. */
export const CHECKS: readonly Check[] = [
  subject, sender, unread, ownButton, links, versions, offers, coupons, countdowns, files,
  pictures, dates, oneCall, shouting, reading, footer, weight,
]

export interface Checked { findings: Finding[], passed: { name: string, detail: string }[] }

export function checkMessage(content: MessageContent, asked: Asked): Checked {
  const done = CHECKS.filter(({ isFor }) => isFor?.(asked) ?? true).map(check => ({ check, findings: check.find(content, asked) }))
  const findings = done.flatMap(one => one.findings)
  return {
    findings: [...findings.filter(one => one.weight === 'wrong'), ...findings.filter(one => one.weight === 'look')],
    passed: done.filter(one => one.findings.length === 0)
      .map(({ check }) => ({ name: check.name, detail: check.detail?.(content, asked) ?? '' })),
  }
}
