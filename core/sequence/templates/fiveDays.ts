/** *Fold, Sew, Cover*: a free course of five days, with a question in its middle. */
import type { DraftStep } from '../draft'
import { newEmail } from '../draft'
import { template, SITE } from './template'
import { bullets, button, email } from './write'

const [LIST, KIT, COURSE, UNDECIDED, COPTIC, LONG_STITCH, MARBLING] = [1, 2, 3, 4, 5, 6, 7]

const steps: DraftStep[] = [
    {
      ...newEmail('kit', { kind: 'at-once' }),
      content: email('Sheet kit', 'Your sheet kit, {name|and welcome}', 'Twelve sheets to print, and the one tool worth buying',
        'Hello {name|there},',
        'here is the **sheet kit**: twelve sheets, printed on both sides, that fold into the four sections of a small book. Any printer will do. If yours offers it, choose paper of 100 grams; thinner shows through, thicker fights the fold.',
        button('Print the sheet kit', `${SITE}/sheet-kit.pdf`),
        'While it prints, look for something hard and smooth to fold with. I use a bone folder; the back of a teaspoon is the best thing in most kitchens.',
        'Tomorrow at this hour we make the first fold. It takes eleven minutes.',
        'Ines'),
    },
    {
      ...newEmail('fold', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
      content: email('First fold', 'Fold once, then trust the grain', 'Why the same sheet folds well one way and badly the other',
        'Paper has a direction. Bend a sheet lightly, first one way, then the other: the way that gives in is with the grain, and that is where the spine wants to be.',
        bullets(
          'Bring the corners together before you touch the middle.', 'Press from the middle outwards, once.',
          'Nest three sheets and press again. That is a section.',
        ),
        'A fold against the grain is not a mistake you can press away, so test before you fold all twelve.',
        button('Watch the fold', `${SITE}/watch/first-fold`),
        'Make all four sections today if you can. They rest until the needle comes.'),
    },
    {
      ...newEmail('question', { kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' }),
      reactions: [
        { id: 'undecided', on: 'not-clicked', within: { count: 3, unit: 'days' }, then: [{ kind: 'give-tag', tagId: UNDECIDED }] },
      ],
      content: email('Which book first?', 'What would you like to bind?', 'One click tells me what to send you',
        'Good morning {name|to you},',
        'four sections lie on your table and could become three quite different books. Tell me which one pulls at you and I will send what fits it, and leave out the rest.',
        button('A coptic book that opens flat', `${SITE}/books/coptic`, COPTIC),
        button('A long-stitch journal in leather', `${SITE}/books/long-stitch`, LONG_STITCH),
        button('Marbled covers before all else', `${SITE}/books/marbling`, MARBLING),
        'There is no wrong answer, and you can click again if you change your mind.'),
    },
    {
      ...newEmail('sew', { kind: 'calendar-day', day: 4, time: '08:00', from: 'joining' }),
      zone: 'subscriber',
      content: email('Sewing without a frame', 'Thread, wax and a straight back', 'How to keep four sections from wandering',
        'People think sewing needs a frame. For four sections it needs the edge of a table and a bulldog clip.',
        'Wax the thread until it squeaks. Sew from the **inside** of a section to the outside, and when you pull, pull along the spine and never away from it: away is how holes tear.',
        button('See the five stations', `${SITE}/watch/stations`),
        'If your first row is loose, leave it. The second row tightens it, and pulling now only makes the pages lean.'),
    },
    {
      ...newEmail('cover', { kind: 'calendar-day', day: 6, time: '08:00', from: 'joining' }),
      content: email('A cover, and what comes next', 'The last hour of your first book', 'Boards, glue, and a weight you already own',
        'Today the book gets its coat. Cut two boards three millimetres larger than the pages on three sides, and nothing on the fourth, where the spine breathes.',
        'Spread the glue thinner than feels right. Then put the book under your heaviest dictionary and go for a walk: impatience is the only thing that warps a board.',
        button('Follow the cover, step by step', `${SITE}/watch/cover`),
        button('Sew three journals with me', `${SITE}/classes/long-stitch`),
        'That was the course, {name|reader}. If your book turned out crooked, write back and tell me where; I answer everybody on Thursdays.',
        'Ines'),
    },
]

export const fiveDays = template('five-days', 'Fold, Sew, Cover', 'Five days from a folded sheet to a finished book. People who have made something with you come back.', {
  list: { [LIST]: {
    name: 'free course', publicName: 'Fold, Sew, Cover',
    description: 'The free course by email: five letters, from a folded sheet to a finished book.',
  } },
  tag: {
    [KIT]: { name: 'took: sheet kit' }, [COURSE]: { name: 'wants: free course' }, [UNDECIDED]: { name: 'undecided' },
    [COPTIC]: { name: 'likes: coptic' }, [LONG_STITCH]: { name: 'likes: long-stitch' }, [MARBLING]: { name: 'likes: marbling' },
  },
}, { listId: LIST, wayInTagIds: [KIT, COURSE], again: 'once', steps })
