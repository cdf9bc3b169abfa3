/** The rules of lint that are ours. */
import { longLines } from './longLines.mjs'

export default { meta: { name: 'porch' }, rules: { 'long-lines': longLines } }
