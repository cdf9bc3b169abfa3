/** Email courses, and who stands in them. */
import type { CourseDraft } from '#core/sequence/draft'
import type { RehearsedReader, StoryLine } from '#core/sequence/rehearsal'
import type {
  BroughtCourse, ChangeOutlook, CourseAhead, CourseBeginning, CourseLine, CourseStanding, CourseTemplateLine, CourseView, Include, Mender,
  StartOutlook,
} from '#core/views/course'
import type { CourseNumbersView, Who, WhoAsked } from '#core/views/courseNumbers'
import type { KeptRehearsal, RehearsalView } from '#core/views/rehearsal'
import type { Download, Nothing } from './operation'

export interface CoursesOperations {
  'GET /courses': { answer: CourseLine[] }
  'POST /courses': { body: { name: string, beginning: CourseBeginning }, answer: BroughtCourse }
  'GET /courses/:id': { answer: CourseView }
  'PUT /courses/:id': { body: { name: string, draft: CourseDraft }, answer: CourseView }
  'DELETE /courses/:id': { answer: Nothing }
  'POST /courses/bring': { file: true, answer: BroughtCourse }
  'GET /courses/ahead': { answer: CourseAhead[] }
  'GET /courses/templates': { answer: CourseTemplateLine[] }
  'GET /courses/:id/export': { query: { as: 'json' | 'folder' }, answer: Download }
  'POST /courses/:id/go-on': { answer: Nothing }
  'GET /courses/:id/numbers': { answer: CourseNumbersView }
  'POST /courses/:id/onto-list': { body: { kind: Mender, id: number }, answer: { published: boolean } }
  'GET /courses/:id/people': { query: { stepId: string | null, from: number }, answer: CourseStanding }
  'POST /courses/:id/people': { body: { personId: number }, answer: { outcome: 'enrolled' | 'stays-out' } }
  'POST /courses/:id/publish': { body: { goesOn: boolean }, answer: { moved: number, goOn: number } }
  'GET /courses/:id/rehearsals': { answer: KeptRehearsal[] }
  'POST /courses/:id/rehearsals': { body: { reader: RehearsedReader, lines: StoryLine[] }, answer: { id: number } }
  'POST /courses/:id/start': { body: { include: Include, people: number | null }, answer: { scheduledEntries: number } }
  'POST /courses/:id/stop': { answer: Nothing }
  'POST /courses/:id/who': { body: { asked: WhoAsked, from: number }, answer: { people: Who[], more: boolean } }
  'GET /courses/:id/outlook/change': { answer: ChangeOutlook }
  'GET /courses/:id/outlook/start': { answer: StartOutlook }
  'DELETE /courses/:id/rehearsals/:rehearsal': { answer: Nothing }
  'POST /courses/:id/rehearsals/try': { body: { readers: RehearsedReader[] }, answer: RehearsalView }
  'POST /enrolments/:id/back': { answer: Nothing }
  'POST /enrolments/:id/go-on': { answer: Nothing }
  'POST /enrolments/:id/move': { body: { toId: string }, answer: Nothing }
  'POST /enrolments/:id/still': { answer: Nothing }
  'POST /enrolments/:id/take-out': { answer: Nothing }
}
