/** *After the sheet kit*: helps with what was taken, and stops when it is used. */
import { day, days, emailStep, template, SITE } from './template'
import { button, email } from './write'

export const afterKit = template('after-kit', 'After the sheet kit', 'Most free things are downloaded and forgotten. Three short letters get the sheets off the pile and into people’s hands.', {
  list: { 1: {
    name: 'free course', publicName: 'Fold, Sew, Cover',
    description: 'The free course by email: five letters, from a folded sheet to a finished book.',
  } },
  tag: { 2: { name: 'took: sheet kit' }, 3: { name: 'finished: first book' } },
}, {
  listId: 1, wayInTagIds: [2], again: 'once', waysOut: [{ id: 'done', when: { kind: 'got-tag', thingId: 3 }, fromStepId: null }], steps: [
    emailStep('printed', days(1), email(
      'Printed yet?', 'Is it still on your screen?', 'The sheets work only on paper', 'Hello {name|there},',
      'a kit on a screen has never become a book. If you have no printer, the library has one, and the copy shop by the station charges less than a coffee.',
      button('The sheets again', `${SITE}/sheet-kit.pdf`),
    )),
    emailStep('first', day(3, '18:30'), email(
      'The first twenty minutes', 'Tonight, instead of the news', 'One sheet, four folds, no tools',
      'Take one single sheet and fold it three times. You are holding sixteen pages that only want to be cut.',
      'Do it with the radio on. Nothing about it needs your whole head, and that is the beauty of it.',
    )),
    emailStep('proud', day(7, '09:00'), email(
      'Did it become a book?', 'Show me, or tell me where you stopped', 'Both are worth a line',
      'A week has gone by. Either there is a small book on your table now, or the sheets were put aside somewhere.',
      button('It became a book', `${SITE}/kit/done`, 3), button('I stopped somewhere', `${SITE}/kit/help`),
      'Where people stop is where my instructions are bad. You would be doing me a favour.',
    )),
  ],
})
