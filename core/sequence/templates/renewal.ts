/** *Before the year is over*: three letters around the day on which a membership ends. */
import type { Timing } from '#core/time/when'
import { emailStep, template, SITE } from './template'
import { button, email } from './write'

const [LIST, UNTIL] = [1, 2]
const around = (n: number): Timing => ({ kind: 'date-field', fieldId: UNTIL, days: n, time: '10:00', everyMonths: 0 })

export const renewal = template('renewal', 'Before the year is over', 'A surprise renewal becomes a complaint. A month, a week and the day itself: by then everyone knows.', {
  list: { [LIST]: {
    name: 'classes', publicName: 'Your classes', description: 'The lessons of the class you bought, its receipt, and nothing else.',
  } },
  field: { [UNTIL]: { name: 'club until', label: 'Member of the Bench Club until', kind: 'date' } },
}, {
  listId: LIST, wayInTagIds: [], again: 'after-ending', dates: { fieldId: UNTIL, everyMonths: 0 }, steps: [
    emailStep('month', around(-30), email(
      'A month to go', 'Your year at the bench has a month left', 'What you made, and what comes next', 'Hello {name|there},',
      'in thirty days your year in the Bench Club is complete. There were twelve projects; I hope at least one of them is in use.',
      'You don’t need to do anything: the year renews at the same price, and your chair stays yours.',
      button('Change or cancel it', `${SITE}/club/mine`),
    )),
    emailStep('week', around(-7), email(
      'A week to go', 'Next week the club takes its yearly fee', 'If you would rather not, today is a good day',
      'On the day shown on your page, your card is charged ninety euros, once.',
      'If it has expired, add the new one. If you want to stop, one click is enough, and I will not ask why.',
      button('Open my page', `${SITE}/club/mine`),
    )),
    emailStep('today', around(0), email(
      'A new year', 'Pull up the stool again', 'The first project is a box that holds the other eleven',
      'Today your second year begins, or your fifth. We start with a clamshell box, because by now you own things worth boxing.',
      button('The first project', `${SITE}/club/first`),
    )),
  ],
})
