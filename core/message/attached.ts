/** Files that go along in an email itself: what they weigh for everybody on their way. */
import type { AttachedFile } from './content'

export const MOST_ATTACHED = 5

/** Above it many mail servers refuse the whole email. Common practice, no source. */
export const MOST_ATTACHED_BYTES = 10_000_000
/** Above it mail is slow to fetch on a telephone. Common practice, no source. */
export const HEAVY_BYTES = 1_000_000

/** As they go over the line: base64 writes three bytes in four letters, in lines of 76 (RFC 2045 section 6.8). */
export const weightOf = (files: readonly Pick<AttachedFile, 'bytes'>[]): number =>
  files.reduce((sum, { bytes }) => sum + Math.ceil(Math.ceil(bytes / 3) * 4 * 78 / 76), 0)
