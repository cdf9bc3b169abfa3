/** What programs can ask for of what the owner makes: pages, offers, courses, house rules, links and segments, alike for each. */
import type { ObjectSchema, Schema } from 'joi'
import Joi from '../joi'
import type { PortableNames } from '#core/exchange/portable'
import { toFolder } from '#core/exchange/courseFolder'
import type { Scope } from '#core/views/keys'
import { toZip } from '#runtime/zip'
import {
  changeDefinition, definitionLines, definitionOut, FORMATS, makeDefinition, publishDefinition, startCourseOut, type Definition,
  type DefinitionKind,
} from '#usecases/api/definitions'
import { exportCourse } from '#usecases/courses/exchange'
import { changeOutlook } from '#usecases/courses/publish'
import { letCourseGoOn, stopCourse } from '#usecases/courses/stop'
import { switchRule } from '#usecases/know/rules'
import { takeOfferDown } from '#usecases/offers/save'
import { InputProblem } from '#usecases/problem'
import { limitsOf, measure } from '../bounds'
import { checked } from '../check'
import { readCourseFile } from '../courseFile'
import { checkElsewhere, isCheckedElsewhere, readCourse } from '../files/index'
import { broadcastInput } from '../broadcastSchemas'
import { offerInput } from '../offerSchemas'
import { pageInput } from '../pageSchemas'
import { segmentInput } from '../peopleSchemas'
import { linkInput, ruleInput } from '../ruleSchemas'
import { text } from '../schemas'
import * as answers from './answers'
import type { Call, Operation } from './operation'

/** A body of more things, or more bytes, than that is checked in a thread of its own: others would wait for it. */
const MOST_HERE = 2000
const MOST_BYTES_HERE = 50_000

const named = (fields: Record<string, Schema> = {}) =>
  Joi.object().pattern(/^\d{1,6}$/, Joi.object({ name: text(120).required(), ...fields })).default({})
const names = Joi.object<PortableNames>({
  list: named({ publicName: text(120).required(), description: text(1000).required() }), tag: named(),
  field: named({ label: text(120).required(), kind: text(20).required() }), other: named({ kind: text(20).required() }),
}).required()

interface Envelope { format: string, version: number, name: string, names: PortableNames, draft: Record<string, unknown> }

function envelopeOf(kind: DefinitionKind): ObjectSchema<Envelope> {
  const { format, version } = FORMATS[kind]
  return Joi.object<Envelope>({
    format: Joi.valid(format).required().messages({ '*': `The format is “${format}”.` }),
    version: Joi.valid(version).required().messages({ '*': `Only version ${version} is accepted.` }),
    name: kind === 'rule' ? text(120).default('') : text(120).required(),
    names: names.description('Names for the numbers in the draft.'),
    draft: Joi.object().unknown().required().description('As the application stores it. Read one to see.'),
  })
}

/** How the draft of each is checked: by the very schema its screen is. */
const CHECKS: { [Kind in Exclude<DefinitionKind, 'course'>]: (envelope: Envelope) => Promise<Definition<Kind>['draft']> } = {
  async page({ name, draft }) {
    const { slug, draft: content } = await byItsOwn(pageInput, { name, slug: draft.slug, draft: draft.content })
    return { slug, content }
  },
  async offer({ name, draft }) {
    const { slug, draft: content } = await byItsOwn(offerInput, { name, slug: draft.slug, draft: draft.content })
    return { slug, content }
  },
  broadcast: ({ draft }) => byItsOwn(broadcastInput, draft),
  async rule({ draft }) {
    const { evenInCircle: _, ...rule } = await byItsOwn(ruleInput, draft)
    return rule
  },
  async link({ name, draft }) {
    const { name: _, ...link } = await byItsOwn(linkInput, { ...draft, name })
    return link
  },
  async segment({ name, draft }) {
    const { name: _, ...segment } = await byItsOwn(segmentInput, { ...draft, name })
    return segment
  },
}

async function byItsOwn<Value>(schema: ObjectSchema<Value>, raw: unknown): Promise<Value> {
  const { nodes, outOfBounds } = measure(raw, limitsOf(schema))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  return nodes > MOST_HERE && isCheckedElsewhere(schema) ? checkElsewhere(schema, { raw }) : checked(schema, raw)
}

/** Reads the body of a change: JSON; of a course also a folder of Markdown files, as ZIP. */
async function readDefinition(kind: DefinitionKind, bytes: Uint8Array): Promise<Definition> {
  if (kind === 'course') {
    const { name, names, draft } = bytes.length > MOST_BYTES_HERE ? await readCourse(bytes) : readCourseFile(bytes)
    return { name, names, draft }
  }
  let raw: unknown
  try {
    raw = JSON.parse(new TextDecoder().decode(bytes))
  }
  catch {
    throw new InputProblem([{ field: '', problem: 'The body is no JSON.' }])
  }
  const schema = envelopeOf(kind)
  const { outOfBounds } = measure(raw, limitsOf(schema))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  const envelope = checked(schema, raw)
  return { name: envelope.name, names: envelope.names, draft: await CHECKS[kind](envelope) }
}

const of = ({ numbers }: Call) => numbers.id!
const seenOf = ({ query }: Call) => (query as { revision: string | null }).revision
const revision = Joi.object({ revision: Joi.string().max(200).allow(null).default(null).description(
  'The revision you read. If it is no longer current, nothing is changed.',
) })

/** Reading, making and changing, alike for each kind. */
function usual(kind: DefinitionKind, area: string, one: string, more: { draft: string, change: string }): Operation[] {
  const [read, write] = [`${area}:read`, `${area}:write`] as [Scope, Scope]
  const { format, version } = FORMATS[kind]
  const example = {
    format, version, name: kind === 'rule' ? '' : 'Sheet kit', names: { list: {}, tag: {}, field: {}, other: {} }, draft: {},
  }
  const line = { id: 3, name: 'Sheet kit', state: 'draft', changed: false }
  const reads = (bytes: Uint8Array) => readDefinition(kind, bytes)
  const body = kind === 'course' ? envelopeOf(kind).description('Or a folder of Markdown files, as ZIP.') : envelopeOf(kind)
  return [
    ...kind === 'course' ? [] : [{
      method: 'GET' as const, path: `/${area}`, scope: read, summary: `All ${area}`, status: 200 as const,
      answer: answers.definitions(area),
      example: { answer: { [area]: [line] } }, run: ({ context }: Call) => ({ [area]: definitionLines(context, kind) }),
    }],
    {
      method: 'GET', path: `/${area}/{id}`, scope: read, summary: `One ${one}, to save or change`, status: 200,
      answer: answers.definition(format, version),
      description: 'What it refers to is included by name, so that it can be imported into another workspace.',
      example: { answer: { ...line, revision: 'k7Yw', definition: example } }, run: call => definitionOut(call.context, kind, of(call)),
    },
    {
      method: 'POST', path: `/${area}`, scope: write, summary: `Makes a ${one}`,
      description: `${more.draft} Lists, tags and fields that it names are created if they do not exist.`,
      makes: true, status: 201, body, reads, answer: answers.brought,
      example: { body: example, answer: { id: 3, made: ['the tag “likes: coptic”'], lost: [] } },
      run: ({ context, body }) => makeDefinition(context, kind, body as Definition),
    },
    {
      method: 'PUT', path: `/${area}/{id}`, scope: write, summary: `Changes a ${one}`, description: more.change, status: 200,
      query: revision, body, reads,
      answer: answers.changedDefinition, example: { body: example, answer: { made: [], lost: [] } },
      run: call => changeDefinition(call.context, kind, of(call), call.body as Definition, seenOf(call)),
    },
  ]
}

const DRAFT = {
  draft: 'It is a draft. Nobody sees it until it is published.',
  change: 'Only the draft changes. The published version stays until you publish again.',
}
const AT_ONCE = { draft: 'It can be used at once.', change: 'It applies at once, wherever it is used.' }

const published = (area: 'pages' | 'offers', one: 'page' | 'offer'): Operation => ({
  method: 'POST', path: `/${area}/{id}/publish`, scope: `${area}:write`,
  summary: `Publishes the draft of ${one === 'offer' ? 'an' : 'a'} ${one}`,
  status: 200, query: revision, answer: answers.published, example: { answer: { number: 2 } },
  description: 'If something is missing, the answer says what, and nothing is published.',
  run: async call => ({ number: (await publishDefinition[one](call.context, of(call), seenOf(call))).number }),
})

export const DEFINITION_OPERATIONS: readonly Operation[] = [
  ...usual('page', 'pages', 'page', DRAFT),
  published('pages', 'page'),
  ...usual('offer', 'offers', 'offer', DRAFT),
  published('offers', 'offer'),
  {
    method: 'DELETE', path: '/offers/{id}/publish', scope: 'offers:write', summary: 'Takes an offer down', status: 204, example: {},
    description: 'Nobody can buy it from then on. Buyers keep it.', run: call => takeOfferDown(call.context, of(call)),
  },
  ...usual('course', 'courses', 'course', {
    draft: 'It is a draft. Nobody is in it until it is started.',
    change: 'Only the draft changes. For a running course, the answer says what publishing would change and how many people it would move where.',
  }),
  {
    method: 'GET', path: '/courses/{id}/folder', scope: 'courses:read', summary: 'A course as a folder of Markdown files', status: 200,
    file: 'application/zip',
    description: 'As a ZIP file for version control: course.yaml holds the plan, and each email is a Markdown file.', example: {},
    run: call => toZip(toFolder(exportCourse(call.context, of(call)))),
  },
  {
    method: 'GET', path: '/courses/{id}/changes', scope: 'courses:read', summary: 'What publishing a course would change', status: 200,
    answer: answers.changes,
    example: { answer: { inside: 12, steps: [], effects: [{ fromStepId: 'two', toStepId: 'three', people: 4, atOnce: 0 }], newEnd: null } },
    run: call => changeOutlook(call.context, of(call)),
  },
  {
    method: 'POST', path: '/courses/{id}/start', scope: 'courses:write', summary: 'Starts a course for the first time', status: 200,
    query: revision,
    body: Joi.object({
      include: Joi.valid('none', 'now').default('none').description('Whether people who already have what starts it join now.'),
    }),
    answer: answers.started, example: { body: { include: 'none' }, answer: { scheduledEntries: 0 } },
    run: call => startCourseOut(call.context, of(call), (call.body as { include: 'none' | 'now' }).include, seenOf(call)),
  },
  {
    method: 'POST', path: '/courses/{id}/publish', scope: 'courses:write', summary: 'Publishes the changes of a running course',
    status: 200, query: revision,
    description: 'Everyone inside moves to the new version. Nothing is sent twice.',
    body: Joi.object({ goesOn: Joi.boolean().default(false).description('Whether people who finished continue with the new steps.') }),
    answer: answers.moved, example: { body: { goesOn: false }, answer: { moved: 12, goOn: 0 } },
    run: call => publishDefinition.course(call.context, of(call), (call.body as { goesOn: boolean }).goesOn, seenOf(call)),
  },
  {
    method: 'POST', path: '/courses/{id}/stop', scope: 'courses:write', summary: 'Stops a course for everyone', status: 204, example: {},
    description: 'No emails go out from now on. Waiting times are paused.', run: call => stopCourse(call.context, of(call)),
  },
  {
    method: 'POST', path: '/courses/{id}/resume', scope: 'courses:write', summary: 'Resumes a stopped course', status: 204, example: {},
    description: 'Everyone continues with what was left of each wait.', run: call => letCourseGoOn(call.context, of(call)),
  },
  ...usual('broadcast', 'broadcasts', 'broadcast', {
    draft: 'It is a draft. It is scheduled in the application.',
    change: 'Only the draft changes. What is scheduled stays until you schedule it again. What was sent cannot be changed.',
  }),
  ...usual('rule', 'rules', 'house rule', { draft: 'It is switched off.', change: 'If it is on, the new version applies at once.' }),
  {
    method: 'PUT', path: '/rules/{id}/on', scope: 'rules:write', summary: 'Switches a house rule on', status: 204, example: {},
    run: call => switchRule(call.context, of(call), true),
  },
  {
    method: 'DELETE', path: '/rules/{id}/on', scope: 'rules:write', summary: 'Switches a house rule off', status: 204, example: {},
    run: call => switchRule(call.context, of(call), false),
  },
  ...usual('link', 'links', 'link', AT_ONCE),
  ...usual('segment', 'segments', 'segment', AT_ONCE),
]
