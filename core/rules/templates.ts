/** Ten ready rules, to be copied, each with its reason. Things are named by kind; which of them is chosen where the rule is made. */
import { EVERYBODY, type Condition } from '#core/audience/condition'
import type { MessageContent } from '#core/message/content'
import type { Action, RuleInput, Trigger } from './rule'

/** What a template is made of: the first thing of each kind, or one that fits better; 0 where there is none yet. */
export interface RuleTemplateParts {
  pageId: number, tagId: number, listId: number, linkId: number, offerId: number, courseId: number, sourceWord: string | null,
}

/** What must be there for it. */
export type Need = 'page' | 'tag' | 'list' | 'link' | 'offer' | 'course'

export interface RuleTemplate { name: string, reason: string, needs: Need[], make(parts: RuleTemplateParts): RuleInput }

/** The rule of a template, with its reason as its note. */
export const ruleOfTemplate = (template: RuleTemplate, parts: RuleTemplateParts): RuleInput => ({
  ...template.make(parts), note: template.reason,
})

const rule = (when: Trigger, then: Action[], more: Partial<RuleInput> = {}): RuleInput => ({
  when, who: EVERYBODY, then, often: { kind: 'each' }, on: true, note: '', ...more,
})
const only = (...of: Condition[]): Condition => ({ kind: 'all', of: [{ kind: 'all', of }, { kind: 'none', of: [] }] })

const words = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })
const emailStep = (workingTitle: string, subject: string, ...lines: string[]): MessageContent => ({
  workingTitle, subject: [{ type: 'text', text: subject }], preview: [],
  body: { type: 'doc', content: [{ type: 'paragraph', content: [
    { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } },
    { type: 'text', text: ',' },
  ] }, ...lines.map(words)] },
})

export const RULE_TEMPLATES: readonly RuleTemplate[] = [
  {
    name: 'Owners stop hearing about it', reason: 'Nobody who has just bought wants to be sold the same thing tomorrow.',
    needs: ['offer', 'course'],
    make: ({ offerId, courseId }) => rule({ kind: 'bought', thingId: offerId }, [{ kind: 'leave-course', courseId }]),
  },
  {
    name: 'A tag for where they came from', reason: 'A year later you know which stall, letter or friend brought your best readers.',
    needs: ['tag'],
    make: ({ tagId, sourceWord }) => rule({ kind: 'opted-in', thingId: null }, [{ kind: 'give-tag', tagId }], {
      who: only({
        kind: 'brought', by: 'latest', source: sourceWord === null ? { kind: 'untold', word: '' } : { kind: 'named', word: sourceWord },
      }),
    }),
  },
  {
    name: 'An interest from what they click', reason: 'Nobody fills in a form about their interests. Clicks tell you.',
    needs: ['link', 'tag'],
    make: ({ linkId, tagId }) => rule({ kind: 'clicked', thingId: linkId }, [{ kind: 'give-tag', tagId }, { kind: 'score', points: 2 }]),
  },
  {
    name: 'No more about this offer', reason: 'One link in a launch lets people stay with you while it lasts.', needs: ['link', 'offer'],
    make: ({ linkId, offerId }) => rule({ kind: 'clicked', thingId: linkId }, [{ kind: 'no-more', offerId }]),
  },
  {
    name: 'Welcome back', reason: 'People who come back have made an effort. Say that you noticed.', needs: ['list'],
    make: ({ listId }) => rule({ kind: 'came-back', thingId: null }, [{ kind: 'email', listId, messageId: null, content: emailStep(
      'Welcome back', 'Good to see you again', 'you are back on the list, and I am glad of it.',
      'If letters came too often before: the line at the foot of each lets you choose what comes, and how much.',
    ) }], { often: { kind: 'every', days: 90 } }),
  },
  {
    name: 'Say thanks for a second download', reason: 'A second download says more than ten opens. Thank them once, and remember it.',
    needs: ['page', 'list'],
    make: ({ pageId, listId }) => rule({
      kind: 'opted-in', thingId: null,
    }, [{ kind: 'score', points: 5 }, { kind: 'email', listId, messageId: null, content: emailStep(
      'Thanks for the second one', 'A second one, how nice', 'that is the second thing you took home from here. Thank you.',
      'If one of them left a question open, answer this letter: I read every answer.',
    ) }], {
      who: only({ kind: 'opted-in', pageId, within: { kind: 'last-days', days: 365 } }), often: { kind: 'once' },
    }),
  },
  {
    name: 'Someone went to pay and did not', reason: 'One friendly question tells you more than many reminders.',
    needs: ['offer'],
    make: ({ offerId }) => rule(
      { kind: 'checkout-abandoned', thingId: offerId }, [{ kind: 'todo', text: 'Ask whether something was unclear', days: 1, helper: '' }],
      { often: { kind: 'every', days: 30 } },
    ),
  },
  {
    name: 'After a refund', reason: 'A refund tells you something. Answer within two days, and stop selling to them.',
    needs: ['offer'],
    make: ({ offerId }) => rule(
      { kind: 'refunded', thingId: offerId },
      [{ kind: 'no-more', offerId }, { kind: 'todo', text: 'Write and ask what was missing', days: 2, helper: '' }],
    ),
  },
  {
    name: 'Someone is getting interested', reason: 'Hear about keen readers while they are keen, not a month later.', needs: [],
    make: () => rule(
      { kind: 'reached-score', thingId: null, points: 40 },
      [{ kind: 'notice', text: 'Someone is getting interested: a good moment for a personal line', email: 'daily' }],
      { often: { kind: 'every', days: 90 } },
    ),
  },
  {
    name: 'Tag people who go quiet', reason: 'A tag for people who have gone quiet lets you write one honest email before they rest.',
    needs: ['tag'],
    make: ({ tagId }) => rule({ kind: 'became-silent', thingId: null, days: 90 }, [{ kind: 'give-tag', tagId }]),
  },
]
