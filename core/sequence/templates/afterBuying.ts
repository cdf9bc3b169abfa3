/** *After buying*: helps to begin, then asks how it was. */
import { atOnce, day, emailStep, template, quick, SITE } from './template'
import { button, email } from './write'

export const afterBuying = template('after-buying', 'After buying', 'The days after a purchase decide whether it was a good one. Help them begin, and ask for a few words only from people who have something to tell.', {
  list: { 1: {
    name: 'classes', publicName: 'Your classes', description: 'The lessons of the class you bought, its receipt, and nothing else.',
  } },
  tag: { 2: { name: 'has: paper sampler' }, 3: { name: 'said how it was' } },
}, {
  listId: 1, wayInTagIds: [2], again: 'once', steps: [
    emailStep('unpack', atOnce, email(
      'Unpack it slowly', 'Before you cut anything', 'How to look at sixteen papers', 'Hello {name|there},',
      'hold each paper against the window first. The cloudy ones tear well, the clear ones fold well, and the two with hairs in them are for endpapers.',
      'Then write the date on the back of the sampler. In ten years you will want to know.',
    )),
    emailStep('use', day(5, '08:30'), email(
      'What to make of it', 'Sixteen papers, four small books', 'A plan for a rainy Sunday',
      'Four papers make one small book with room for a week. Begin with the cheapest, so that the knife gets its practice on something you will not miss.',
      button('The plan on one page', `${SITE}/sampler/plan.pdf`),
    )),
    { ...quick('read-it'), kind: 'hold', when: day(
      9, '09:00',
    ), until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'use' } }, atMost: { count: 5, unit: 'days' },
      did: [emailStep('how', atOnce, email(
        'How was it?', 'A line for the next person who wonders', 'Good or bad, I print both',
        'Someone is looking at the sampler right now and wondering whether it is worth it. You know.',
        button('Say it in one sentence', `${SITE}/sampler/say`, 3),
      ))],
      didNot: [emailStep('help', atOnce, email(
        'Still in its wrapper?', 'Nothing goes bad', 'It only gets a little yellower, which suits it',
        'If the sampler is still where you put it down, good. Paper has time. When you do open it and something puzzles you, reply to this letter.',
      ))] },
  ],
})
