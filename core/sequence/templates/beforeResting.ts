/** *A letter before resting*: asks who has gone quiet whether they still want to hear; who does not answer is written to no more. */
import { atOnce, days, emailStep, template, quick, SITE } from './template'
import { button, email } from './write'

export const beforeResting = template('before-resting', 'A letter before resting', 'Nobody gains from letters that nobody reads. Ask once, wait two weeks, and let the silent ones rest. They can come back at any time.', {
  list: { 1: {
    name: 'bench letters', publicName: 'Letters from the bench',
    description: 'A letter when something is worth telling: a technique, a mended book, a new class.',
  } },
  tag: { 2: { name: 'gone quiet' }, 3: { name: 'wants to stay' } },
}, {
  listId: 1, wayInTagIds: [2], again: 'after-ending', steps: [
    emailStep('still', atOnce, email(
      'Still there?', 'Shall I keep writing to you?', 'One click keeps the letters coming', 'Hello {name|there},',
      'as far as I can see, you have not opened my letters for a while. That is all right; lives fill up.',
      'I would rather write to fewer people who enjoy it than to many who don’t. Click here, and everything stays as it is:',
      button('Yes, keep writing', `${SITE}/stay`, 3), 'Do nothing, and I stop in two weeks. You can come back whenever you like.',
    )),
    {
      ...quick('waiting'), kind: 'hold', until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'still' } },
      atMost: { count: 14, unit: 'days' },
      did: [emailStep('glad', atOnce, email(
        'Good', 'Then we stay in touch', 'Here is what you missed',
        'I am glad. Here is what you missed: a paper mill closed, a school bought forty needles, and the cat learned to open the press.',
        button('The three best letters of the year', `${SITE}/best`),
      )), { ...quick('awake'), kind: 'do', then: [{ kind: 'take-tag', tagId: 2 }] }],
      didNot: [{ ...quick('rest'), kind: 'do', then: [{ kind: 'status', to: 'resting' }, { kind: 'take-tag', tagId: 2 }] }],
    },
    { ...quick('a-day'), kind: 'end', when: days(1) },
  ],
})
