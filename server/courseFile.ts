/** Courses as files: JSON, or a folder of Markdown files as ZIP. */
import Joi from './joi'
import { COURSE_FORMAT, COURSE_VERSION, type PortableCourse } from '#core/exchange/course'
import { withSends } from '#core/exchange/older'
import { FolderProblem, fromFolder } from '#core/exchange/courseFolder'
import { fromZip, ZipProblem } from '#runtime/zip'
import { InputProblem } from '#usecases/problem'
import { limitsOf, measure } from './bounds'
import { checked } from './check'
import { courseDraft, courseStep } from './courseSchemas'
import { portableNames } from './portableSchemas'
import { text } from './schemas'

/** A long course with all its emails is far below it. */
export const MOST_COURSE_BYTES = 4_000_000

const portable = Joi.object<PortableCourse>({
  format: Joi.valid(COURSE_FORMAT).required().messages({ '*': 'This file is not a course exported from here.' }),
  version: Joi.valid(1, COURSE_VERSION).required().messages({ '*': 'This course was exported by a newer version.' }),
  name: text(120).required(), reason: text(400).default(''),
  names: portableNames.required(),
  draft: courseDraft.required(),
}).shared(courseStep)

/** Throws an {@link InputProblem} that says what does not fit. */
export function readCourseFile(bytes: Uint8Array): PortableCourse {
  const problem = (words: string) => new InputProblem([{ field: 'file', problem: words }])
  let value: unknown
  try {
    value = bytes[0] === 0x50 && bytes[1] === 0x4B ? fromFolder(fromZip(bytes)) : JSON.parse(new TextDecoder().decode(bytes))
  }
  catch (error) {
    throw problem(
      error instanceof ZipProblem || error instanceof FolderProblem ? error.message : 'This file is neither JSON nor a ZIP file.',
    )
  }
  const { outOfBounds } = measure(value, limitsOf(portable))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  return checked(portable, withSends(value))
}
