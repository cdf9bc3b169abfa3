/** People who come into a course by a way that does not lead onto its list get none of its emails: the one act that mends it. */
import type { CourseDraft } from '#core/sequence/draft'
import type { Mender } from '#core/views/course'
import { findCourse } from '#data/courses'
import { findOffer } from '#data/offers'
import { findPage } from '#data/pages'
import { publishPage, savePage } from '../arrive/pages'
import type { WorkspaceContext } from '../context'
import { isSame } from '../inner/changes'
import { publishOffer, saveOffer } from '../offers/save'
import { NotNow, NotThere } from '../problem'
import { publishChanges } from './publish'
import { saveCourse } from './save'

/**
 * Changes what is written; and publishes it at once where nothing else waits to be published with it. Returns false where
 * something does: then its owner publishes. The words that people agree to there have to cover the list: the screen says so.
 */
export async function leadOntoList(
  context: WorkspaceContext, courseId: number, by: { kind: Mender, id: number },
): Promise<{ published: boolean }> {
  const { db } = context
  const course = findCourse(db, courseId)
  if (!course) throw new NotThere('This course no longer exists.')
  const listId = (course.published ?? course.draft).listId
  if (listId === null) throw new NotNow('This course belongs to no list yet. Choose one first.')
  const withList = (listIds: readonly number[]) => listIds.includes(listId) ? [...listIds] : [...listIds, listId]
  if (by.kind === 'course') {
    const whole = course.status === 'running' && isSame(course)
    const draft: CourseDraft = { ...course.draft, joinsList: true }
    saveCourse(context, courseId, course.name, draft)
    if (whole) await publishChanges(context, courseId)
    return { published: whole || course.status !== 'running' }
  }
  if (by.kind === 'page') {
    const page = findPage(db, by.id)
    if (!page) throw new NotThere('This page no longer exists.')
    const whole = isSame(page)
    savePage(context, by.id, { name: page.name, slug: page.slug, draft: { ...page.draft, listIds: withList(page.draft.listIds) } })
    if (whole) await publishPage(context, by.id)
    return { published: whole || page.published === null }
  }
  const offer = findOffer(db, by.id)
  if (!offer) throw new NotThere('This offer no longer exists.')
  const whole = isSame(offer)
  const { name, slug, draft: { gives, waiting } } = offer
  const changed = by.kind === 'offer'
    ? { gives: { ...gives, listIds: withList(gives.listIds) } }
    : { waiting: waiting && { ...waiting, listIds: withList(waiting.listIds) } }
  saveOffer(context, by.id, { name, slug, draft: { ...offer.draft, ...changed } })
  if (whole) await publishOffer(context, by.id)
  return { published: whole || offer.published === null }
}
