/** Where the screen of something stands that names a thing. */
import type { Use } from '#core/views/marks'

/** Where that is not the plural of its kind. */
const PATHS: Partial<Record<Use['kind'], string>> = { rule: '/house-rules/', part: '/email-parts?part=', emailDraft: '/email-drafts/' }

export const addressOf = ({ kind, id }: Pick<Use, 'kind' | 'id'>): string => `${PATHS[kind] ?? `/${kind}s/`}${id}`
