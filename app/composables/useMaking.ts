/** Making a page, a course or an offer by its name, and going there. */
import { navigateTo } from '#imports'
import type { CourseBeginning } from '#core/views/course'
import type { PageBeginning } from '#core/views/pages'
import { api } from './useApi'
import { useFrame } from '~/stores/frame'

export function useMaking() {
  const frame = useFrame()
  async function goTo(screen: 'pages' | 'courses' | 'offers', made: Promise<{ id: number }>) {
    const { id } = await made
    await navigateTo(`/${screen}/${id}`)
    await frame.changed()
  }
  return {
    makePage: (name: string, beginning: PageBeginning = null) => goTo('pages', api('POST /pages', { body: { name, beginning } })),
    makePageWithCourse: (name: string, beginning: PageBeginning, course: CourseBeginning, listId: number | null) =>
      goTo('pages', api('POST /pages/with-course', { body: { name, beginning, course, listId } })),
    makeCourse: (name: string, beginning: CourseBeginning) => goTo('courses', api('POST /courses', { body: { name, beginning } })),
    makeOffer: (name: string, from: number | null = null) => goTo('offers', api('POST /offers', { body: { name, from } })),
  }
}
