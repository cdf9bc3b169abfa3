/** What an action of a rule came to, in words. */
import type { Permission } from './waking'

/** Why nothing came of it; what did something needs no words of its own. */
const NOTHING: Record<string, string> = {
  'had-it': 'they have it already', 'did-not-have-it': 'they do not have it', 'was-on-it': 'they are on it already',
  'left-it-themselves': 'they left it, and only they can come back', 'was-not-on-it': 'they are not on it',
  'was-so-already': 'it already is', 'not-running': 'the course is not running', 'stays-out': 'the course’s conditions leave them out',
  'was-not-in-it': 'they are not in it', 'no-waiting-list': 'it has no waiting list', 'owns-it': 'they have it',
  'waits-already': 'they are waiting already', 'gone': 'they no longer exist',
}

/** `add the tag “a” (nothing changes: they have it already)` */
export const sayDid = (said: string, outcome: string): string =>
  outcome in NOTHING ? `${said} (nothing changes: ${NOTHING[outcome]})` : said

export const didSomething = (outcome: string): boolean => !(outcome in NOTHING)

export const VERDICT_WORDS: Record<Permission | 'does-not-fit', string> = {
  'acts': 'acts', 'does-not-fit': 'does not act: they do not match',
  'circle': 'stopped as a circle: it already acted on the first event', 'too-deep': 'stopped: twenty rules in a row',
  'acted-once': 'does not act: it already acted on them, and acts once per person',
  'too-soon': 'does not act: it acted on them too recently',
}
