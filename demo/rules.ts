/** The house rules of Saltmarsh Bindery, each with its reason. */
import { EVERYBODY, type Condition } from '#core/audience/condition'
import { newRule, type Action, type RuleInput, type Trigger } from '#core/rules/rule'
import type { WorkspaceContext } from '#usecases/context'
import { saveRule } from '#usecases/know/rules'
import { ruleParts } from '#usecases/views/rules'
import { email } from '#core/sequence/templates/write'

const only = (...of: Condition[]): Condition => ({ kind: 'all', of: [{ kind: 'all', of }, { kind: 'none', of: [] }] })

interface Given { lettersId: number, freeCourseId: number, birthdayFieldId: number, tag(name: string, note: string, group: string): number }

export async function rules(context: WorkspaceContext, { lettersId, freeCourseId, birthdayFieldId, tag }: Given): Promise<void> {
  const parts = ruleParts(context)
  const by = (rows: { id: number, name: string }[], name: string) => rows.find(row => row.name === name)!.id
  const [kitPage, chooser] = [by(parts.pages, 'Sheet kit'), by(parts.pages, 'Which book first?')]
  const [journals, leather, club] = [
    by(parts.offers, 'Long-Stitch Journals'), by(parts.offers, 'Leather and Board'), by(parts.offers, 'Bench Club'),
  ]
  const save = (note: string, when: Trigger, then: Action[], who: Condition = EVERYBODY, often: RuleInput['often'] = { kind: 'each' }) =>
    saveRule(context, null, { ...newRule(when, then), who, often, note })

  await save(
    'The stall at the fair costs a day. This shows what it brings.', { kind: 'opted-in', thingId: null },
    [{ kind: 'give-tag', tagId: tag('met at the stall', 'Came through the workshop flyer.', 'came for') }],
    only({ kind: 'brought', by: 'first', source: { kind: 'named', word: 'workshop-flyer' } }),
  )
  await save('People who take a second thing mean it. Thank them, once.', { kind: 'opted-in', thingId: chooser }, [
    { kind: 'score', points: 5 },
    { kind: 'email', listId: lettersId, messageId: null, content: email(
      'A second thing', 'You came back for another sheet, {name|reader}', 'Only to say that I noticed', 'Hello {name|again},',
      'you took the kit, and now you have asked which book should come first. People who do both usually have thread on the table by Sunday.',
      'If the two answers do not fit together, tell me what is in your cupboard. I answer on Thursdays.', 'Ines',
    ) },
  ], only({ kind: 'opted-in', pageId: kitPage, within: null }), { kind: 'once' })
  await save('Coming back after leaving takes a moment of courage.', { kind: 'came-back', thingId: null }, [
    { kind: 'email', listId: lettersId, messageId: null, content: email(
      'Glad you are back', 'The bench kept your place', 'And a way to get fewer letters', 'Hello {name|you},',
      'you had gone, and you are here again. Nothing was thrown away: what you liked then, I still know.',
      'Should it become too much again, the last line of every letter lets you choose what comes.', 'Ines',
    ) },
  ], EVERYBODY, { kind: 'every', days: 90 })
  await save(
    'People who print the kit have begun.',
    { kind: 'clicked', thingId: by(parts.links, 'Print the sheet kit') },
    [{ kind: 'score', points: 2 }, { kind: 'give-tag', tagId: tag('has printed', 'Opened the sheets to print them.', 'progress') }],
  )
  await save('A finished first book is worth more than any opinion about it.', { kind: 'finished-course', thingId: freeCourseId }, [
    { kind: 'give-tag', tagId: tag('first book done', 'Finished Fold, Sew, Cover.', 'progress') },
    { kind: 'join-list', listId: lettersId },
  ])
  await save(
    'Buyers of the class sew along with it; the free letters would only repeat it.', { kind: 'bought', thingId: journals },
    [{ kind: 'leave-course', courseId: freeCourseId }],
  )
  await save('A new member of the club gets a line from me by hand, the same evening if I can.', { kind: 'bought', thingId: club }, [
    { kind: 'todo', text: 'Write a card to the new member', days: 1, helper: '' },
    { kind: 'notice', text: 'The Bench Club has a new member', email: 'at-once' },
  ])
  await save(
    'One friendly question tells more than three reminders.', { kind: 'checkout-abandoned', thingId: null },
    [{ kind: 'todo', text: 'Ask whether something was unclear', days: 1, helper: 'Nuno' }], EVERYBODY, { kind: 'every', days: 30 },
  )
  await save(
    'After a refund they hear no more about it, and hear from me.', { kind: 'refunded', thingId: leather },
    [{ kind: 'no-more', offerId: leather }, { kind: 'todo', text: 'Ask what was missing', days: 2, helper: '' }],
  )
  await save(
    'I want to know about keen readers while they are keen.', { kind: 'reached-score', thingId: null, points: 40 },
    [{ kind: 'notice', text: 'Getting interested: a good moment for a personal line', email: 'daily' }], EVERYBODY,
    { kind: 'every', days: 90 },
  )
  await save(
    'Before people rest, I write them one honest letter. This finds them.', { kind: 'became-silent', thingId: null, days: 30 },
    [{ kind: 'give-tag', tagId: tag('gone quiet', 'Thirty days without a reader open or a click.', 'progress') }],
  )
  await save('A birthday is the one day for a letter without a reason.', {
    kind: 'date-arrived', thingId: birthdayFieldId, days: 0, yearly: true,
  }, [
    { kind: 'email', listId: lettersId, messageId: null, content: email(
      'Birthday', 'A small book for your day, {name|maker}', 'One sheet, eight pages, no glue', 'Dear {name|maker},',
      'today of all days: fold one sheet three times, slit it once, and you hold eight pages. Write in it what this year should not forget.',
      'Ines',
    ) },
  ])
}
