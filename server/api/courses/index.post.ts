import { randomUUID } from 'node:crypto'
import { handle } from '#server/http'
import { nameInput } from '#server/schemas'
import { createCourse } from '#usecases/courses/save'

export default handle({ body: nameInput }, ({ context, body }) => ({ id: createCourse(context, body.name, randomUUID().slice(0, 8)) }))
