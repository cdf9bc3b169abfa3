/** *Long-stitch, lesson by lesson*: seven lessons for who has bought the class. */
import { day, emailStep, template, SITE } from './template'
import { bullets, button, email } from './write'

const lesson = (id: string, n: number, title: string, subject: string, preview: string, ...blocks: Parameters<typeof email>[3][]) =>
  emailStep(id, day(n, '07:30'), email(title, subject, preview, ...blocks))

const SAYS = 'Lessons that each fit into a morning, so that the class is done and not only owned.'

export const lessons = template('lessons', 'Long-stitch: seven lessons for buyers', SAYS, {
  list: { 1: {
    name: 'classes', publicName: 'Your classes', description: 'The lessons of the class you bought, its receipt, and nothing else.',
  } },
  tag: { 2: { name: 'has: journals class' }, 3: { name: 'finished: journals class' } },
}, {
  listId: 1, wayInTagIds: [2], again: 'once', onFinish: [{ kind: 'give-tag', tagId: 3 }], steps: [
    lesson('table', 1, 'Lesson 1: the table', 'Clear a table, {name|and sit down}', 'What you need, and what you do not',
      'Good morning {name|to you},', 'today nothing is sewn. Lay out the leather, the thread, two needles and the paper, and leave them lying until tomorrow.',
      bullets(
        'Leather of 1.5 millimetres, soft enough to close by itself', 'Linen thread, and beeswax for it',
        'An awl; a compass point does as well',
      ),
      'Things that lie ready are begun. Things in a drawer are planned.'),
    lesson('soft', 2, 'Lesson 2: the soft cover', 'Cut it larger than you dare', 'Leather shrinks around thread',
      'Give the cover four millimetres on every side, and more at the flap. It looks like too much until the last stitch pulls it in.',
      button('Print the pattern', `${SITE}/class/pattern.pdf`), 'Cut with one stroke. If you are afraid of it, cut an old boot first.'),
    lesson('holes', 4, 'Lesson 3: holes that stay round', 'Twenty holes before breakfast', 'Why pushing is not punching',
      'A hole that is punched stays; a hole that is pushed closes. Work from the inside, on cork, and turn the awl as you take it out.', 'Twenty holes take eleven minutes. I have counted.'),
    lesson('fold', 6, 'Lesson 4: sections', 'Paper that wants to be a book', 'Six sections, and how to keep them together',
      'Fold six sections of four sheets. Rub each fold with the back of a spoon, then let all of them sleep under a pan until tomorrow.', button(
        'Watch me fold the first', `${SITE}/class/fold`,
      )),
    lesson('stitch', 8, 'Lesson 5: the long stitch', 'Up, over, and along the spine', 'The part that everybody will see',
      'Leave the first row loose, and let the second one tighten it. Pull too early and you get a spine that smiles.', 'When the thread runs out, tie the new one on the inside, and never at a corner.', button(
        'The stitch, slowly', `${SITE}/class/stitch`,
      )),
    lesson('flap', 11, 'Lesson 6: the flap and its tie', 'How to close what you have opened', 'One strip, two slits and a sailor’s knot',
      'Slit the flap twice, a finger apart. Thread the strip through, round the book, and back under itself.', 'It holds on a bicycle, in the rain, and in the bag of a child.'),
    lesson('show', 14, 'Lesson 7: show it', 'Put it on a windowsill and take a picture', 'The last lesson is not about leather',
      'Yours leans. So does mine; so do all that were made by a person.',
      'Send me a picture, {name|if you like}: on Thursdays I look at every spine and say what I see.',
      button(
        'Send a picture', `${SITE}/class/show`,
      )),
  ],
})
