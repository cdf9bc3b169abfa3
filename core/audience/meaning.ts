/** What a condition means for one person, from what is known about them. */
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import type { Condition, EmailFate, Leaf, Stretch, WhichEmail } from './condition'
import { edgesOf, isGroup, SAMPLE } from './condition'

export interface EmailFacts {
  courseId: number
  stepId: string
  plannedAt: Instant
  status: string
  /** True if a failed email is to be tried once more. */
  triedAgain: boolean
  handedOverAt: Instant | null
  leftAt: Instant | null
  /** Reader opens only. */
  opens: Instant[]
  /** Readers' clicks only. */
  clicks: Instant[]
}

export interface PersonFacts {
  id: number
  status: Status
  source: string
  createdAt: Instant
  lists: { listId: number, left: boolean }[]
  tags: { tagId: number, sinceAt: Instant }[]
  optIns: { pageId: number, at: Instant }[]
  emails: EmailFacts[]
  enrolments: { courseId: number, status: 'open' | 'finished' | 'left', stepId: string | null }[]
}

export function holds(condition: Condition, person: PersonFacts, now: Instant): boolean {
  if (!isGroup(condition)) return leafHolds(condition, person, now)
  switch (condition.kind) {
    case 'all':
      return condition.of.every(part => holds(part, person, now))
    case 'any':
      return condition.of.some(part => holds(part, person, now))
    case 'none':
      return !condition.of.some(part => holds(part, person, now))
  }
}

function leafHolds(leaf: Leaf, person: PersonFacts, now: Instant): boolean {
  switch (leaf.kind) {
    case 'status':
      return leaf.is.includes(person.status)
    case 'list': {
      const membership = person.lists.find(({ listId }) => listId === leaf.listId)
      return leaf.is === (!membership ? 'never-joined' : membership.left ? 'left' : 'joined')
    }
    case 'tag':
      return person.tags.some(({ tagId, sinceAt }) => tagId === leaf.tagId && isIn(sinceAt, leaf.since, now))
    case 'source':
      return person.source === leaf.is
    case 'arrived':
      return isIn(person.createdAt, leaf.when, now)
    case 'opted-in':
      return person.optIns.some(({ pageId, at }) => pageId === leaf.pageId && isIn(at, leaf.within, now))
    case 'email':
      return person.emails.filter(email => isOne(email, leaf.which) && timesOf(leaf.fate, email).some(at => isIn(at, leaf.within, now))).length >= leaf.times
    case 'read':
      return person.emails.some(email => [...email.opens, ...email.clicks].some(at => isIn(at, leaf.within, now)))
    case 'course': {
      const visits = person.enrolments.filter(({ courseId }) => courseId === leaf.courseId)
      if (leaf.is === 'never') return visits.length === 0
      if (leaf.is === 'inside') return visits.some(({ status, stepId }) => status === 'open' && (leaf.stepId === null || stepId === leaf.stepId))
      return visits.some(({ status }) => status === leaf.is)
    }
    case 'sample':
      return ((person.id % SAMPLE.wrap) * SAMPLE.stride + leaf.salt * SAMPLE.saltStride) % SAMPLE.buckets < leaf.hundredths
  }
}

function isIn(at: Instant, stretch: Stretch | null, now: Instant): boolean {
  if (!stretch) return true
  const { from, to } = edgesOf(stretch, now)
  return (from === null || at >= from) && (to === null || at <= to)
}

function isOne(email: EmailFacts, which: WhichEmail): boolean {
  return which === null || (email.courseId === which.courseId && (which.stepId === null || email.stepId === which.stepId))
}

/** When it came to this with an email; empty if it did not. */
function timesOf(fate: EmailFate, email: EmailFacts): Instant[] {
  switch (fate) {
    case 'sent':
      return email.handedOverAt === null ? [] : [email.handedOverAt]
    case 'opened':
      return email.opens
    case 'clicked':
      return email.clicks
    case 'left-by':
      return email.leftAt === null ? [] : [email.leftAt]
    case 'held-back':
      return email.status === 'held back' ? [email.plannedAt] : []
    case 'given-up':
      return email.status === 'failed' && !email.triedAgain ? [email.plannedAt] : []
    case 'waiting-again':
      return email.status === 'failed' && email.triedAgain ? [email.plannedAt] : []
  }
}
