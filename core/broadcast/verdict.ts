/** What the numbers of a sent email say in plain words, and what they cannot say. */
import { compared, together } from '#core/stats/difference'
import type { Rate } from '#core/stats/rate'
import { sayInterval, sayNumber, sayPeople, sayRate } from '#core/stats/say'

export interface Outcome {
  sent: number
  clicked: Rate
  opened: Rate
  /** Only opened in a way that programs do, too. */
  uncertain: number
  /** People who bought, and those who unsubscribed by it. */
  bought: number
  left: number
  /** It asks its readers to follow a link. */
  hasLinks: boolean
  isWatched: boolean
}

/** So few past emails say nothing about what is usual. */
const LEAST_PAST = 3
const SMALL = 100

/** The first is the answer. `past`: of earlier broadcasts. */
export function verdictOf(now: Outcome, past: readonly { clicked: Rate, opened: Rate }[]): string[] {
  if (now.sent === 0) return ['Nobody has been sent it yet, so there is nothing to see.']
  return [
    answer(now, past),
    ...now.bought > 0 ? [`${sayPeople(now.bought)} bought something after following a link in it.`] : [],
    ...now.left > 0 ? [`${sayPeople(now.left)} unsubscribed by it.`] : [],
    ...now.sent < SMALL ? [`It went to ${sayPeople(now.sent)}: with so few, look at the range, not at the rate.`] : [],
  ]
}

function answer(now: Outcome, past: readonly { clicked: Rate, opened: Rate }[]): string {
  const [what, rate, usual] = now.hasLinks
    ? ['clicked', now.clicked, together(past.map(({ clicked }) => clicked))] as const
    : ['opened it', now.opened, together(past.map(({ opened }) => opened))] as const
  if (!now.hasLinks && !now.isWatched) return 'It has no links and was not watched for opens: who read it is not known.'
  const said = `${sayNumber(rate.part)} of ${sayNumber(rate.whole)} ${what}: ${sayRate(rate)}`
  if (past.length < LEAST_PAST) return `${said}, ${sayInterval(rate)}.`
  const is = compared(rate, usual)
  const usually = `${sayRate(usual)} in your last ${past.length} broadcasts`
  return is === 'unclear' ? `${said}. That is not clearly different from ${usually}.` : `${said}. That is ${is} than ${usually}.`
}

/** What nobody can know from them. */
export const cannotSay = ({ uncertain, isWatched }: Pick<Outcome, 'uncertain' | 'isWatched'>): string[] => [
  ...isWatched ? [uncertain > 0
    ? `${sayPeople(uncertain)} may have read it: their mail program opens everything, so nobody can tell. They count as not opened.`
    : 'People who read without pictures are not counted as opens.'] : ['It was not watched for opens.'],
  'A purchase counts for the email whose link was followed last before it. Whether it would have come anyway, nobody knows.',
]
