/** Where the screen of something stands that names a thing. */
import type { Use } from '#core/views/marks'

export const addressOf = ({ kind, id }: Pick<Use, 'kind' | 'id'>): string => kind === 'rule' ? `/house-rules/${id}` : `/${kind}s/${id}`
