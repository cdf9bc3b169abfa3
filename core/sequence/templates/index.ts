/** Finished courses with real words, in the order in which a workspace needs them. */
import { afterBuying } from './afterBuying'
import { afterKit } from './afterKit'
import { beforeResting } from './beforeResting'
import { fiveDays } from './fiveDays'
import { lessons } from './lessons'
import type { CourseTemplate } from './template'
import { renewal } from './renewal'
import { welcome } from './welcome'
import { whichBook } from './whichBook'

export const COURSE_TEMPLATES: readonly CourseTemplate[] = [
  welcome, fiveDays, whichBook, afterKit, lessons, afterBuying, renewal, beforeResting,
]
