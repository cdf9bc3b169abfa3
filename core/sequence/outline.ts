/** Several emails at once: written down as an outline, a subject a line, with so many days between them. */
import { emptyMessage } from '../message/content'
import type { LocalTime } from '../time/zone'
import { newEmail, type DraftEmail } from './draft'

export const MOST_OUTLINED = 60
/** As long as the subject of an email may be. */
const LONGEST_SUBJECT = 200

/** `day`: the number after the word *day*, where the line begins with one. */
export interface OutlineLine { subject: string, day: number | null }

export interface Outline {
  lines: OutlineLine[]
  /** Days between two emails whose lines name none, at least 1. */
  everyDays: number
  /** When they leave, all but the first of a course, which leaves at once. */
  time: LocalTime
}

/** What stands before a subject in a list: a bullet, or its number. */
const BULLET = /^(?:[-*•‣–—]\s+|\d{1,3}[.)]\s+|#{1,6}\s+)/
const DAY = /^(?:day|lesson day)\s+(\d{1,4})\s*[:.,–—-]?\s+/i

/** The lines of a pasted text that have words; bullets and numbers are left out, and *Day 3:* says the day. */
export function readOutline(text: string): OutlineLine[] {
  return text.split(/\r\n?|\n/).map(line => line.trim().replace(BULLET, '')).flatMap((line): OutlineLine[] => {
    const day = DAY.exec(line)
    const subject = (day ? line.slice(day[0].length) : line).replace(/\s+/g, ' ').trim().slice(0, LONGEST_SUBJECT)
    return subject === '' ? [] : [{ subject, day: day ? Number(day[1]) : null }]
  })
}

/** So many emails whose subjects are still to be written. */
export const emptyOutline = (count: number): OutlineLine[] => Array.from({ length: count }, () => ({ subject: '', day: null }))

/**
 * The emails of an outline. Days that lines name count from each other: whether the first is called day 0 or day 1 makes no difference.
 * A first line that names none is day 0, as the ladder has it; a day that is not later than the one before is not one.
 * `first`: they begin a course, so the first goes at once; otherwise it follows what stands before.
 */
export function emailsOfOutline({ lines, everyDays, time }: Outline, first: boolean, newId: () => string): DraftEmail[] {
  let lastDay: number | null = null
  return lines.slice(0, MOST_OUTLINED).map(({ subject, day }, n) => {
    const next: number = lastDay === null ? 0 : lastDay + everyDays
    const own: number = day !== null && (lastDay === null || day > lastDay) ? day : next
    const apart = lastDay === null ? everyDays : own - lastDay
    lastDay = own
    const email = newEmail(newId(), n === 0 && first ? { kind: 'at-once' } : { kind: 'calendar-day', day: apart, time, from: 'previous' })
    return { ...email, content: { ...emptyMessage(), subject: subject ? [{ type: 'text', text: subject }] : [] } }
  })
}
