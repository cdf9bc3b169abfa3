/** *Come in*: three letters to somebody new. */
import { atOnce, day, days, emailStep, template, SITE } from './template'
import { button, email } from './write'

const SAYS = 'People read most closely when they have just arrived. Say who you are while they look.'

export const welcome = template('welcome', 'Come in: three letters of welcome', SAYS, {
  list: { 1: {
    name: 'bench letters', publicName: 'Letters from the bench',
    description: 'A letter when something is worth telling: a technique, a mended book, a new class.',
  } },
  tag: { 2: { name: 'came by a page' } },
}, {
  listId: 1, wayInTagIds: [2], again: 'once', steps: [
    emailStep('hello', atOnce, email('Hello', 'You are in, {name|and I am glad}', 'What these letters are, and how often they come',
      'Hello {name|there},',
      'I bind books in a former salt store, by hand and mostly by daylight. Twice a month I write down what happened at the bench.',
      'You will never get more than that unless you ask for it. You can leave with the link at the end of every letter, and no hard feelings.',
      'If you like, reply with one line: what was the last thing you made with your own hands? I read every reply.',
      'Ines')),
    emailStep('mistake', days(2), email(
      'My first mistake', 'The book I would like to forget', 'It fell apart in the hands of the person I had made it for',
      'The first book I ever gave away came back in two pieces. I had glued the spine as if it were a wall: thick, hard and proud.',
      'A spine wants to move. Since then I use paste that stays soft and half as much of it, and I bend the book open while it dries.',
      'What fell apart that day hangs over my bench. It is the best teacher I have had.',
      button('See how it looks today', `${SITE}/first-book`))),
    emailStep('choose', day(6, '08:00'), email(
      'Where to begin', 'Three doors, all of them open', 'Free sheets, a free course, or a class with me',
      'Good morning {name|to you},',
      'by now you know how I sound. Here is where people usually go next.',
      button('Print the free sheets', `${SITE}/sheet-kit`),
      button('Take the free five-day course', `${SITE}/free-course`),
      button('Look at the classes', `${SITE}/classes`),
      'And if none of it fits: the letters go on, and that is quite enough.')),
  ],
})
