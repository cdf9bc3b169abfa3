/** Email courses, and who stands in them. */
import { setResponseHeader } from 'h3'
import type { CoursesOperations } from '#core/operations/courses'
import { toFolder } from '#core/exchange/courseFolder'
import { slugOf } from '#core/message/headers'
import { toZip } from '#runtime/zip'
import { asManyAs } from '../asMany'
import { MOST_COURSE_BYTES } from '../courseFile'
import {
  courseInput, exportAsQuery, moveInput, newCourseInput, newStepId, ontoListInput, personInput, publishInput, standingQuery, startInput,
  whoInput,
} from '../courseSchemas'
import { readCourse } from '../files/index'
import { handle, type Operations, seenRevision } from '../http'
import { inReader } from '../reader/index'
import { keptInput, rehearsalInput } from '../rehearsalSchemas'
import { beginCourse } from '#usecases/courses/begin'
import { bringCourse, courseTemplates, exportCourse } from '#usecases/courses/exchange'
import { leadOntoList } from '#usecases/courses/ontoList'
import { goOnAgain, letIn, movePerson, standStill, takeOut, undoByHand } from '#usecases/courses/people'
import { publishChanges, startCourse } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { letCourseGoOn, removeCourse, stopCourse } from '#usecases/courses/stop'
import { noteRehearsed } from '#usecases/settings/firstSteps'
import { forgetRehearsal, keepRehearsal } from '#usecases/practice/rehearse'

export const courses: Operations<CoursesOperations> = {
  'GET /courses': handle({}, ({ event, context }) => inReader(event, context.mode, 'courses')),
  'POST /courses': handle({
    body: newCourseInput,
  }, ({ context, body: { name, beginning } }) => beginCourse(context, name, beginning, newStepId)),
  'GET /courses/:id': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'course', id())),
  'PUT /courses/:id': handle({ body: courseInput }, ({ event, context, id, body }) => {
    saveCourse(context, id(), body.name, body.draft, seenRevision(event))
    return inReader(event, context.mode, 'course', id())
  }),
  'DELETE /courses/:id': handle({}, ({ context, id }) => removeCourse(context, id())),
  'POST /courses/bring': handle({ upload: MOST_COURSE_BYTES }, async ({ context, bytes }) => bringCourse(context, await readCourse(bytes))),
  'GET /courses/ahead': handle({}, ({ event, context }) => inReader(event, context.mode, 'coursesAhead')),
  'GET /courses/templates': handle({}, () => courseTemplates()),
  /** A course to take along: as JSON, or as a folder of Markdown files. */
  'GET /courses/:id/export': handle({ query: exportAsQuery }, ({ event, context, id, query }) => {
    const course = exportCourse(context, id())
    const zip = query.as === 'folder'
    setResponseHeader(event, 'content-type', zip ? 'application/zip' : 'application/json')
    setResponseHeader(event, 'content-disposition', `attachment; filename="${slugOf(course.name) || 'course'}.${zip ? 'zip' : 'json'}"`)
    return zip ? Buffer.from(toZip(toFolder(course))) : `${JSON.stringify(course, null, 2)}\n`
  }),
  'POST /courses/:id/go-on': handle({}, ({ context, id }) => letCourseGoOn(context, id())),
  'GET /courses/:id/numbers': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'courseNumbers', id())),
  'POST /courses/:id/onto-list': handle({ body: ontoListInput }, ({ context, id, body }) => leadOntoList(context, id(), body)),
  'GET /courses/:id/people': handle({
    query: standingQuery,
  }, ({ event, context, id, query }) => inReader(event, context.mode, 'courseStanding', { courseId: id(), ...query })),
  'POST /courses/:id/people': handle({ body: personInput }, ({ context, id, body }) => ({ outcome: letIn(context, id(), body.personId) })),
  'POST /courses/:id/publish': handle({
    body: publishInput,
  }, ({ event, context, id, body }) => publishChanges(context, id(), { goesOn: body.goesOn, seen: seenRevision(event) })),
  'GET /courses/:id/rehearsals': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'keptRehearsals', id())),
  'POST /courses/:id/rehearsals': handle({
    body: keptInput,
  }, ({ context, id, body }) => ({ id: keepRehearsal(context, id(), body.reader, body.lines) })),
  'POST /courses/:id/start': handle({ body: startInput }, async ({ event, context, id, body: { include, people } }) => {
    if (include.kind !== 'none') await asManyAs(event, context, { kind: 'outside', courseId: id() }, people!)
    return startCourse(context, id(), include, people, seenRevision(event))
  }),
  'POST /courses/:id/stop': handle({}, ({ context, id }) => stopCourse(context, id())),
  'POST /courses/:id/who': handle({
    body: whoInput,
  }, ({ event, context, id, body }) => inReader(event, context.mode, 'whoBehind', { courseId: id(), ...body })),
  'GET /courses/:id/outlook/change': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'changeOutlook', id())),
  'GET /courses/:id/outlook/start': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'startOutlook', id())),
  'DELETE /courses/:id/rehearsals/:rehearsal': handle({}, ({ context, id }) => forgetRehearsal(context, id(), id('rehearsal'))),
  'POST /courses/:id/rehearsals/try': handle({
    body: rehearsalInput,
  }, async ({ event, context, id, body }) => {
    const rehearsed = await inReader(event, context.mode, 'rehearsal', { courseId: id(), readers: body.readers })
    noteRehearsed(context)
    return rehearsed
  }),
  'POST /enrolments/:id/back': handle({}, ({ context, id }) => undoByHand(context, id())),
  'POST /enrolments/:id/go-on': handle({}, ({ context, id }) => goOnAgain(context, id())),
  'POST /enrolments/:id/move': handle({ body: moveInput }, ({ context, id, body }) => movePerson(context, id(), body.toId)),
  'POST /enrolments/:id/still': handle({}, ({ context, id }) => standStill(context, id())),
  'POST /enrolments/:id/take-out': handle({}, ({ context, id }) => takeOut(context, id())),
}
