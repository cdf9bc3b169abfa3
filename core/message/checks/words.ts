/** What an email says: its lines, its dates, how it reads. */
import { addDays, dayNumber, localOf } from '../../time/zone'
import { allBlocks } from '../blocks'
import { readLine } from '../content'
import { unreadIn } from '../unread'
import { look, PHONE_SUBJECT_PX, placed, wordsOf, wrong, type Check, type Finding, type Spot } from './check'

export const subject: Check = {
  name: 'Subject and preview text',
  detail: ({ subject: line }) => `${[...readLine(line).trim()].length} characters`,
  find({ subject: line, preview }, { widthOf }) {
    const text = readLine(line).trim()
    const found: Finding[] = []
    if (text === '') found.push(wrong('There is no subject', 'Write one. Without it the email does not leave.', 'subject'))
    else if (widthOf(text) > PHONE_SUBJECT_PX) {
      found.push(look('A phone cuts the subject', `It shows about “${cutTo(text, widthOf)}…”. Put what matters first.`, 'subject'))
    }
    if (readLine(preview).trim() === '') {
      found.push(look('There is no preview text', 'Mail programs then show the first words of the email after the subject.', 'preview'))
    }
    return found
  },
}

function cutTo(text: string, widthOf: (text: string) => number): string {
  const letters = [...text]
  let n = letters.length
  while (n > 1 && widthOf(letters.slice(0, n).join('')) > PHONE_SUBJECT_PX) n--
  return letters.slice(0, n).join('').trimEnd()
}

export const shouting: Check = {
  name: 'Nothing shouts',
  find({ subject: line }) {
    const text = readLine(line)
    const letters = text.replace(/[^\p{L}]/gu, '')
    const capitals = text.replace(/[^\p{Lu}]/gu, '')
    if (letters.length >= 6 && capitals.length / letters.length > 0.7) {
      return [look('The subject is in capitals', 'It looks like advertising. Write it as you would speak.', 'subject')]
    }
    return /[!?]{2,}/.test(text) ? [look('The subject has several ! or ? in a row', 'One is enough.', 'subject')] : []
  },
}

/** As other programs write them; with one of those nothing is sent. */
export const unread: Check = {
  name: 'Placeholders are filled in',
  find(content) {
    const places: { value: unknown, at: Spot | null }[] = [
      { value: [content.subject, content.subjectFor], at: 'subject' }, { value: content.preview, at: 'preview' },
      ...placed(content.body).map(({ node, at }) => ({ value: node as unknown, at })),
    ]
    return places.flatMap(({ value, at }) => {
      const found = unreadIn(value)
      return found === null
        ? []
        : [wrong(`“${found}” is not filled in`, 'Readers would see it as it stands. Type @ instead.', at, 'not filled in')]
    })
  },
}

const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']
const MONTHS = [
  'january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december',
]
const short = (names: readonly string[]) => names.map(name => `${name.slice(0, 3)}(?:${name.slice(3)})?`).join('|')
const DATE = new RegExp(
  `\\b(?:(${short(WEEKDAYS)}),?\\s+)?(?:the\\s+)?(?:(\\d{1,2})(?:st|nd|rd|th)?\\s+(?:of\\s+)?(${short(MONTHS)})|(${short(MONTHS)})\\s+(\\d{1,2})(?:st|nd|rd|th)?)\\b,?(?:\\s+(\\d{4}))?`,
  'gi',
)
const indexIn = (names: readonly string[], word: string) => names.findIndex(name => name.startsWith(word.toLowerCase().slice(0, 3)))

/** Dates in English words. Without a year the one is meant that is nearest. */
export const dates: Check = {
  name: 'Dates are right',
  find(content, { now, zone }) {
    const today = localOf(now, zone).date
    const places: { text: string, at: Spot | null }[] = [
      { text: readLine(content.subject), at: 'subject' }, { text: readLine(content.preview), at: 'preview' },
      ...placed(content.body).map(({ node, at }) => ({ text: wordsOf(node), at })),
    ]
    return places.flatMap(({ text, at }) => [...text.matchAll(DATE)].flatMap(([said, weekday, day1, month1, month2, day2, year]) => {
      const date = dateOf(Number(day1 ?? day2), indexIn(MONTHS, (month1 ?? month2)!) + 1, year ? Number(year) : null, today)
      if (date === null) return [wrong(`“${said.trim()}” is no date`, 'No month has that day.', at, 'no such date')]
      const name = WEEKDAYS[weekdayOf(date)]!
      if (weekday && indexIn(WEEKDAYS, weekday) !== weekdayOf(date)) {
        const title = `“${said.trim()}” is a ${name[0]!.toUpperCase()}${name.slice(1)}`
        return [wrong(title, 'Correct the weekday or the date.', at, 'wrong weekday')]
      }
      return date < today ? [look(`“${said.trim()}” has passed`, 'Is it still meant when this is read?', at)] : []
    }))
  },
}

/** Day 0 of 1970 was a Thursday. */
const weekdayOf = (date: string): number => (dayNumber(date) + 3) % 7

function dateOf(day: number, month: number, year: number | null, today: string): string | null {
  const of = (inYear: number) => {
    const first = `${inYear}-${String(month).padStart(2, '0')}-01`
    const date = addDays(first, day - 1)
    return day >= 1 && date.slice(0, 7) === first.slice(0, 7) ? date : null
  }
  if (year !== null) return of(year)
  const thisYear = Number(today.slice(0, 4))
  const near = [thisYear - 1, thisYear, thisYear + 1].map(of).filter(date => date !== null)
  const far = (date: string) => Math.abs(dayNumber(date) - dayNumber(today))
  return near.sort((a, b) => far(a) - far(b))[0] ?? null
}

const LEAST_EASE = 50

export const reading: Check = {
  name: 'Easy to read',
  find(content, { easeOf }) {
    const ease = easeOf(allBlocks(content.body).map(wordsOf).join('\n'))
    return ease !== null && ease < LEAST_EASE
      ? [look(
        'It is hard to read', `Its reading ease is ${Math.round(ease)}; plain English has 60 or more. Shorter sentences and words help.`
      )]
      : []
  },
}
