/** A finished course, there to be copied: as portable as any other. */
import { COURSE_FORMAT, COURSE_VERSION, type PortableCourse } from '#core/exchange/course'
import type { PortableNames } from '#core/exchange/portable'
import type { CourseDraft, DraftStep } from '../draft'
import { newEmail } from '../draft'
import type { Timing } from '#core/time/when'
import type { MessageContent } from '#core/message/content'

export interface CourseTemplate { key: string, course: PortableCourse }

export const SITE = 'https://saltmarsh.example.com'

export const template = (key: string, name: string, reason: string, names: Partial<PortableNames>, draft: CourseDraft): CourseTemplate =>
  ({ key, course: {
    format: COURSE_FORMAT, version: COURSE_VERSION, name, reason, names: { list: {}, tag: {}, field: {}, other: {}, ...names }, draft,
  } })

export const emailStep = (id: string, when: Timing, content: MessageContent): DraftStep => ({ ...newEmail(id, when), content })
export const atOnce: Timing = { kind: 'at-once' }
export const days = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'days', from: 'previous' })
/** The Nth day after joining, at a time. */
export const day = (n: number, time: string): Timing => ({ kind: 'calendar-day', day: n, time, from: 'joining' })
export const quick = (id: string) => ({ id, when: atOnce, ifPast: 'at-once' as const, zone: 'workspace' as const })
