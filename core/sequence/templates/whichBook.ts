/** *Which book first?*: one question, a wait for its answer, and a letter that fits. */
import { atOnce, days, emailStep, template, quick, SITE } from './template'
import { button, email } from './write'

const [LIST, ASKS, COPTIC, STITCH, MARBLING, QUIET] = [1, 2, 3, 4, 5, 6]
const has = (tagId: number) => ({ kind: 'all' as const, of: [{ kind: 'tag' as const, tagId, since: null }] })

export const whichBook = template('which-book', 'Which book first?', 'Ask once, wait for the answer, and send what fits it. People who do not answer are asked once more, and then left in peace.', {
  list: { [LIST]: {
    name: 'bench letters', publicName: 'Letters from the bench',
    description: 'A letter when something is worth telling: a technique, a mended book, a new class.',
  } },
  tag: {
    [ASKS]: { name: 'ask: which book' }, [COPTIC]: { name: 'likes: coptic' }, [STITCH]: { name: 'likes: long-stitch' },
    [MARBLING]: { name: 'likes: marbling' }, [QUIET]: { name: 'did not say which book' },
  },
}, {
  listId: LIST, wayInTagIds: [ASKS], again: 'once', steps: [
    emailStep('ask', atOnce, email('The question', 'One click, and I know what to send you', 'Three books, three very different afternoons',
      'Hello {name|there},', 'three books on my shelf are the ones people ask about. They are made in three different ways, and nobody likes all three equally.', 'Which one pulls at you?',
      button('The one that opens flat', `${SITE}/books/coptic`, COPTIC), button(
        'The soft one with long stitches', `${SITE}/books/long-stitch`, STITCH,
      ), button('The one with the wild paper', `${SITE}/books/marbling`, MARBLING))),
    {
      ...quick('answer'), kind: 'hold', until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'ask' } },
      atMost: { count: 3, unit: 'days' },
      did: [{
        ...quick('which'), kind: 'fork', ways: [
          { id: 'flat', who: has(COPTIC), steps: [emailStep('coptic', days(1), email(
            'For people who like it flat', 'A book without a spine', 'Why it opens like a table',
            'The coptic book has no spine at all: chains of thread hold its sections, and you see every one of them.',
            'It is fifteen hundred years old as an idea. Monks carried theirs through deserts, and some of them still open.',
            button('How the chain is made', `${SITE}/books/coptic/chain`),
          ))] },
          { id: 'soft', who: has(STITCH), steps: [emailStep('stitch', days(1), email(
            'For people who like it soft', 'A book you can roll up', 'Leather, thread, and no glue',
            'A long-stitch book needs no glue, no press and no patience for drying. It can be in your pocket tonight.',
            'I made one for a postman. He has written eleven years of dogs and weather into it and three of its brothers.',
            button('What you need for it', `${SITE}/books/long-stitch/kit`),
          ))] },
        ],
        otherwise: [emailStep('marbling', days(1), email(
          'For people who like it wild', 'Paper that nobody can make twice', 'Carrageen, four colours and a comb',
          'Marbling is drawing on water and then being quick. The paper lies down on the pattern for three seconds, and takes it away for good.',
          'My kitchen floor has been blue since March.', button('The four colours I begin with', `${SITE}/books/marbling/colours`),
        ))],
      }],
      didNot: [
        emailStep('once-more', atOnce, email(
          'Asked again', 'Did I ask too much?', 'No answer is an answer, too',
          'Perhaps it was the wrong evening. The question is still open, and one click is still all it takes.',
          button('Show me the three books', `${SITE}/books`),
        )),
        { ...quick('quiet'), kind: 'do', when: days(4), then: [{ kind: 'give-tag', tagId: QUIET }] },
        { ...quick('over'), kind: 'end' },
      ],
    },
    emailStep('next', days(3), email(
      'And then', 'From the shelf to your table', 'One evening, once a week, six weeks',
      'You have seen how it is made. If you would like to make it beside me, the next class begins soon, and there is a chair by the window.',
      button('See when it begins', `${SITE}/classes`),
    )),
  ],
})
