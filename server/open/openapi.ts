/** The OpenAPI document of what programs can ask for, made of the same descriptions that requests are checked by. */
import type Joi from 'joi'
import parse from 'joi-to-json'
import * as answers from './answers'
import type { Operation } from './operation'
import { OPERATIONS } from './operations'

const schemaOf = (schema: Joi.Schema): unknown => parse(schema, 'open-api-3.1')
const jsonOf = (schema: Joi.Schema, example: unknown) => ({
  'application/json': { schema: schemaOf(schema), ...example !== undefined && { example } },
})

const PROBLEMS = {
  400: 'The body is no JSON.', 401: 'The key is missing or unknown.', 403: 'The key lacks the permission.', 404: 'Not found.',
  409: 'This cannot be done in its current state.', 413: 'The body is too large.',
  422: 'The request is not valid: “fields” says what is wrong and where.',
  429: 'Too many requests. Retry-After says how many seconds to wait.',
}

function parametersOf({ path, query, makes }: Operation): object[] {
  const described = query ? Object.entries((schemaOf(query) as { properties: Record<string, unknown> }).properties) : []
  return [
    ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'integer', minimum: 1 } })),
    ...described.map(([name, schema]) => ({ name, in: 'query', required: false, schema })),
    ...makes ? [{
      name: 'Idempotency-Key', in: 'header', required: false,
      description: 'A unique value of your own, up to 200 characters. The same request with the same key within a day gets the same answer and is done only once.',
      schema: { type: 'string', maxLength: 200 },
    }] : [],
  ]
}

function operationOf(operation: Operation): object {
  const { scope, besides = {}, summary, description, body, answer, file, status, example } = operation
  const parameters = parametersOf(operation)
  return {
    operationId: idOf(operation), summary, tags: [scope.split(':')[0]], description: [
      description, `The key needs ${scope}.`, ...Object.entries(besides).map(([field, more]) => `“${field}” needs ${more} as well.`)
    ].filter(Boolean).join(' '),
    ...parameters.length > 0 && { parameters }, ...body && { requestBody: { required: true, content: jsonOf(body, example.body) } },
    responses: {
      [status]: {
        description: answer || file ? 'Done.' : 'Done. No content.', ...answer && { content: jsonOf(answer, example.answer) },
        ...file && { content: { [file]: {} } },
      },
      ...Object.fromEntries(Object.keys(PROBLEMS).map(code => [code, { $ref: `#/components/responses/P${code}` }])),
    },
  }
}

/** `put-people-id-tags-tagId` */
const idOf = ({ method, path }: Operation) => `${method.toLowerCase()}${path.replace(/[{}]/g, '').replaceAll('/', '-')}`

/** `baseUrl`: where the public addresses of the workspace begin. OpenAPI 3.1: https://spec.openapis.org/oas/v3.1.1.html */
export function openApi(baseUrl: string, version: string): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const operation of OPERATIONS) (paths[operation.path] ??= {})[operation.method.toLowerCase()] = operationOf(operation)
  return {
    openapi: '3.1.1',
    info: {
      title: 'Keen Porch', version,
      description: 'Requests for your own programs. Create keys under Settings, each with its permissions. Each key may make 120 requests a minute. Practice and live have their own keys and addresses.',
    },
    servers: [{ url: `${baseUrl}/v1` }],
    security: [{ key: [] }],
    paths,
    components: {
      securitySchemes: { key: { type: 'http', scheme: 'bearer' } },
      responses: Object.fromEntries(Object.entries(PROBLEMS).map(([code, description]) =>
        [`P${code}`, { description, content: { 'application/json': { schema: { $ref: '#/components/schemas/Problem' } } } }])),
      schemas: { Problem: schemaOf(answers.problem) },
    },
  }
}
