/** Coming in, what stands around every screen, the settings of the house, and what is done alike to things of every kind. */
import type { ConsentRule } from '#core/people/country'
import type { OddAddressRule } from '#core/people/oddAddress'
import type { ConsentView } from '#core/views/audience'
import type { EndingView } from '#core/views/ending'
import type { Found } from '#core/views/find'
import type { ClockMove, ClockView, FrameView, Health, RailView } from '#core/views/frame'
import type { KeysView, Scope } from '#core/views/keys'
import type { LiveCheck, SessionsView, SettingsView, WorkspaceSettings } from '#core/views/settings'
import type { CopyAcross } from '#core/views/across'
import type { WeeksView } from '#core/views/weeks'
import type { TodayView } from '#core/views/today'
import type { Download, Nothing } from './operation'

export interface HouseOperations {
  'GET /session': { answer: { signedIn: boolean, hasPassword: boolean, wantsCode: boolean, hasLive: boolean } }
  'POST /session': { body: { password: string }, answer: { signedIn: boolean } }
  'DELETE /session': { answer: { signedIn: boolean } }
  'GET /sessions': { answer: SessionsView }
  'DELETE /sessions': { answer: { signedIn: boolean } }
  'POST /password': { body: { password: string, zone: string, code: string }, answer: { signedIn: boolean } }
  'PUT /password': { body: { current: string, password: string }, answer: SessionsView }
  'GET /health': { answer: Health }
  'GET /workspace/export': { answer: Download }
  'GET /frame': { answer: FrameView }
  'GET /rail': { answer: RailView }
  'GET /today': { answer: TodayView }
  'GET /weeks/:kind': { answer: WeeksView }
  'GET /find': { query: { text: string }, answer: Found[] }
  /** Whether the list of first steps is put away. */
  'PUT /setup': { body: { hidden: boolean }, answer: Nothing }
  'GET /clock': { answer: ClockView }
  'POST /clock': { body: ClockMove, answer: { movingTo: number } }
  'POST /live': { body: { smtpUrl: string | null, insideMeant?: boolean }, answer: { hasLive: boolean } }
  'POST /live/checks': { body: { smtpUrl: string | null, insideMeant?: boolean }, answer: LiveCheck[] }
  'GET /settings': { answer: SettingsView }
  'PUT /settings': { body: WorkspaceSettings & { insideMeant?: boolean }, answer: SettingsView }
  'GET /consent': { answer: ConsentView }
  'PUT /consent': { body: ConsentRule, answer: ConsentView }
  'GET /odd-addresses': { answer: OddAddressRule }
  'PUT /odd-addresses': { body: OddAddressRule, answer: OddAddressRule }
  'GET /keys': { answer: KeysView }
  'POST /keys': { body: { name: string, scopes: Scope[] }, answer: { id: number, secret: string } }
  'DELETE /keys/:id': { answer: Nothing }
  'GET /uses/:kind/:id': { answer: EndingView }
  'POST /uses/:kind/:id/replace': { body: { into: number }, answer: { waits: string[] } }
  /** To practice from live, or to live from practice. */
  'POST /across/:kind/:id': { body: { replace: boolean | null }, answer: CopyAcross }
  'POST /copies/:kind/:id': { answer: { id: number } }
  'PUT /archived/:kind/:id': { answer: Nothing }
  'DELETE /archived/:kind/:id': { answer: Nothing }
}
