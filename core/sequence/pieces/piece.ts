/** A finished course, there to be copied: as portable as any other. */
import { COURSE_FORMAT, type PortableCourse, type PortableNames } from '#core/exchange/course'
import type { CourseDraft, DraftStep } from '../draft'
import { newEmail } from '../draft'
import type { When } from '#core/time/when'
import type { MessageContent } from '#core/message/content'

export interface CoursePiece { key: string, course: PortableCourse }

export const SITE = 'https://saltmarsh.example.com'

export const piece = (key: string, name: string, reason: string, names: Partial<PortableNames>, draft: CourseDraft): CoursePiece =>
  ({ key, course: { format: COURSE_FORMAT, version: 1, name, reason, names: { list: {}, tag: {}, field: {}, other: {}, ...names }, draft } })

export const letter = (id: string, when: When, content: MessageContent): DraftStep => ({ ...newEmail(id, when), content })
export const atOnce: When = { kind: 'at-once' }
export const days = (count: number): When => ({ kind: 'elapsed', count, unit: 'days', from: 'previous' })
/** The Nth day after joining, at a time. */
export const day = (n: number, time: string): When => ({ kind: 'calendar-day', day: n, time, from: 'joining' })
export const quick = (id: string) => ({ id, when: atOnce, ifPast: 'at-once' as const, zone: 'workspace' as const })
