/** Times and dates as people type them. */
import { isDate, isLocalTime, type LocalDate, type LocalTime } from './zone'

const two = (n: number) => String(n).padStart(2, '0')

/** `9`, `09:30`, `9.30`, `0930`, `9h30`, `9:30 pm`; null for what is no time of a day. */
export function readTime(typed: string): LocalTime | null {
  const found = /^(\d{1,2})(?:\s*[:.h]\s*(\d{2})?|(\d{2}))?\s*(a\.?m\.?|p\.?m\.?)?$/i.exec(typed.trim())
  if (!found) return null
  const [, hours, after, together, half] = found
  let hour = Number(hours)
  if (half) {
    if (hour < 1 || hour > 12) return null
    hour = hour % 12 + (half.toLowerCase().startsWith('p') ? 12 : 0)
  }
  const time = `${two(hour)}:${after ?? together ?? '00'}`
  return isLocalTime(time) ? time : null
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

/**
 * `2026-11-26`, `26 Nov 2026`, `Thu 26 November`, `Nov 26, 2026`, `26.11.2026`, `26/11/26`: the day before the month where both are
 * numbers. Without a year that of `today`.
 */
export function readDate(typed: string, today: LocalDate): LocalDate | null {
  const text = typed.trim().toLowerCase().replace(/^(mon|tue|wed|thu|fri|sat|sun)[a-z]*[,.]?\s+/, '')
  const thisYear = today.slice(0, 4)
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(text)
  if (iso) return dateOf(iso[1]!, Number(iso[2]), Number(iso[3]))
  const numbers = /^(\d{1,2})[-/. ]+(\d{1,2})(?:[-/. ]+(\d{4}|\d{2}))?\.?$/.exec(text)
  if (numbers) return dateOf(numbers[3] ?? thisYear, Number(numbers[2]), Number(numbers[1]))
  const named = /^(\d{1,2})(?:st|nd|rd|th|\.)?[-\s]+([a-z]{3,9})\.?(?:[-,\s]+(\d{4}|\d{2}))?$/.exec(text)
  if (named) return dateOf(named[3] ?? thisYear, monthOf(named[2]!), Number(named[1]))
  const monthFirst = /^([a-z]{3,9})\.?\s+(\d{1,2})(?:st|nd|rd|th)?(?:[,\s]+(\d{4}|\d{2}))?$/.exec(text)
  if (monthFirst) return dateOf(monthFirst[3] ?? thisYear, monthOf(monthFirst[1]!), Number(monthFirst[2]))
  return null
}

const FULL = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december']
/** 1 to 12, by its English name or how that begins; 0 for none. */
const monthOf = (name: string): number => FULL.some(full => full.startsWith(name)) ? MONTHS.indexOf(name.slice(0, 3)) + 1 : 0

function dateOf(year: string, month: number, day: number): LocalDate | null {
  const date = `${year.length === 2 ? `20${year}` : year}-${two(month)}-${two(day)}`
  return isDate(date) ? date : null
}
