/** Everything that can ask for attention on Today: one entry a feature, in the order in which it is shown. */
import type { Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import type { WorkspaceContext } from '../context'
import { broadcastNotices } from './broadcasts'
import { courseNotices } from './courses'
import { deskNotices } from './desk'
import { linkNotices } from './links'
import { offerNotices } from './offers'
import { pageNotices } from './pages'
import { ruleNotices } from './rules'
import { carrierNotices, engineNotices, mailNotices, senderNotices, turnNotices } from './sending'
import { settingsNotices } from './settings'
import { astrayNotices, cutNotices, goneNotices } from './ways'
import { hookNotices } from './webhooks'

export const NOTICES: readonly ((context: WorkspaceContext, now: Instant, systemNow: Instant | null) => Notice[])[] = [
  engineNotices, carrierNotices, senderNotices, turnNotices, mailNotices,
  deskNotices, ruleNotices, cutNotices, linkNotices, hookNotices, astrayNotices, goneNotices,
  broadcastNotices, courseNotices, pageNotices, offerNotices, settingsNotices,
]
