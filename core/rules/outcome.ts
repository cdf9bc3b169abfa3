/** What an action of a rule came to, in words. */
import type { Permission } from './waking'

/** Why nothing came of it; what did something needs no words of its own. */
const NOTHING: Record<string, string> = {
  'had-it': 'they have it already', 'did-not-have-it': 'they do not have it', 'was-on-it': 'they are on it already',
  'left-it-themselves': 'they left it, and only they can come back', 'was-not-on-it': 'they are not on it',
  'was-so-already': 'it already is', 'not-running': 'the course is not running', 'stays-out': 'the course does not let them in',
  'was-not-in-it': 'they are not in it', 'no-waiting-list': 'it has no waiting list now', 'owns-it': 'they have it',
  'waits-already': 'they are waiting already', 'gone': 'they no longer exist',
}

/** `add the tag “a” (nothing changes: they have it already)` */
export const sayDid = (said: string, outcome: string): string =>
  outcome in NOTHING ? `${said} (nothing changes: ${NOTHING[outcome]})` : said

export const didSomething = (outcome: string): boolean => !(outcome in NOTHING)

export const VERDICT_WORDS: Record<Permission | 'does-not-fit', string> = {
  'acts': 'acts', 'does-not-fit': 'does not act: it is not for them',
  'circle': 'stopped as a circle: it has already acted on the event this began with', 'too-deep': 'stopped: twenty rules in a row',
  'acted-once': 'does not act: it already acted on them, and acts once per person',
  'too-soon': 'does not act: it acted on them too recently',
}
