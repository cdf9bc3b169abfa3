/**
 * Finished pages, there to be copied: each for another craft, so that what is
 * theirs and what is yours is easily told apart. No sentence stands in two of them.
 */
import { newConfirming, type Confirming } from '../confirm'
import { newPage, type PageContent } from '../content'
import { newForm } from '../form'
import type { AnswerTest, ResultPage } from '../result'
import { answers, mail, line, numbered, points, sections, words } from './words'

export interface PageTemplate {
  key: string
  name: string
  /** What it is good for, in a line. */
  says: string
  make(): PageContent
}

const asks = (change: Omit<Confirming, 'withinDays' | 'who'>): Confirming => ({ ...newConfirming(), ...change })

/** A thing to take away at once, for an address. */
function freebie(): PageContent {
  return {
    ...newPage(),
    theme: { type: 'mixed', colour: 'meadow', width: 'usual', picture: 'right' },
    sections: sections(
      ['headline', {
        text: 'The one-page plan for your first vegetable bed',
        under: 'Two metres by one, nine plants, and a calendar that tells you what to do each weekend.',
      }],
      ['picture', { pictureId: null, alt: '', decorates: false, caption: '' }],
      ['points', { title: 'On the sheet', list: points(
        '**What to buy**, with amounts, so that nothing rots in the shed',
        '**Where each plant stands**, and why beans and onions keep apart', '**Twelve weekends**, none of them longer than an hour',
      ) }],
      ['form', { title: 'Where may I send the plan?' }],
      ['quote', { text: 'We ate the first courgette on the day it said we would.', who: 'Somebody who had only ever grown cress' }],
      ['questions', { title: 'Three things people ask first', questions: [
        {
          question: 'Is it too late in the year?',
          answer: words('The calendar begins with the weekend you start on, and leaves out what would freeze.'),
        },
        { question: 'I have only a balcony.', answer: words('Then print the second page: the same plan in four boxes.') },
        {
          question: 'What happens with my address?',
          answer: words('You get the plan, and a note when it is time to sow the next thing. Nobody else ever sees it.'),
        },
      ] }],
    ),
    form: {
      ...newForm(), firstName: 'may', buttonLabel: 'Send me the plan',
      consentWording: 'You get the plan and a short note for each sowing. Every note ends with a link that stops them.',
    },
    confirming: asks({
      mail: mail('Plan: is it you?', 'Your vegetable bed is one click away', 'So that nobody else gets your plan.', [
        'Good day {name|to you},',
        'the plan for your vegetable bed is ready. One click tells me that this is your mailbox, and the plan follows right away.',
      ], 'This is my mailbox', 'If you never asked for a vegetable bed, throw this away.'),
      reminder: { subject: line('The beans are still waiting'), afterHours: 24 },
      waitHeadline: 'Almost there', waitText: words('I have written to you. Open that email, click its button, and the plan is yours.'),
    }),
    promised: { fileId: null, mail: mail(
      'Plan: the sheet', 'Your plan for the vegetable bed', 'One page, to be pinned to the shed.',
      ['Here you are, {name|gardener}:', 'one page with everything you need until the first courgette. Print it large.'], 'Open the plan',
      'The first note follows when it is time to sow.',
    ) },
    thanks: {
      headline: 'The plan is in your mailbox', text: words('Print it, pin it to the shed, and put your name on the first weekend.'),
      onward: [],
    },
    meta: {
      title: '', description: 'A free one-page plan for a first vegetable bed: what to buy, where it stands, what to do when.',
      pictureId: null,
    },
  }
}

/** A letter that comes now and then. */
function newsletter(): PageContent {
  return {
    ...newPage(),
    theme: { type: 'bookish', colour: 'brickwork', width: 'narrow', picture: 'inside' },
    sections: sections(
      ['headline', { text: 'Letters about mending', under: 'Every other Sunday: one torn thing, and how it became whole again.' }],
      ['text', { text: words(
        'I mend for a living: coats, chairs, a sail now and then. **Each letter is one repair**, with drawings, the mistakes left in, and the name of the needle.',
        'It takes as long to read as a cup of tea stays hot.',
      ) }],
      ['form', { title: '' }],
      ['quote', { text: 'The only email I save for the quiet half of the weekend.', who: 'A reader since the letter about the zip' }],
      ['footer', { text: words('I write from a workshop behind a bakery. Replies reach me, and I write back.') }],
    ),
    form: {
      ...newForm(), firstName: 'no', buttonLabel: 'Write to me, too',
      consentWording: 'A letter every other Sunday, and none in August. You can leave at the foot of each.',
    },
    confirming: asks({
      mail: mail('Letters: is it you?', 'Shall I write to you?', 'The next letter leaves on Sunday.', [
        'Hello,', 'you, or someone with your address, would like my letters about mending. I only write to people who say so themselves.',
      ], 'Yes, write to me', 'No answer means no letters, and no hard feelings.'),
      reminder: { subject: line('A letter without an address'), afterHours: 48 },
      waitHeadline: 'One stitch is missing',
      waitText: words('There is a short note in your mailbox with a button in it. One click, and the thread holds.'),
    }),
    thanks: {
      headline: 'You are on the list', text: words('The next letter comes on a Sunday morning. Until then, look what has lost a button.'),
      onward: [],
    },
    meta: { title: '', description: 'A letter every other Sunday about one repair, with drawings and mistakes.', pictureId: null },
  }
}

/** Something that does not exist yet, for people who want to hear first. */
function waitingList(): PageContent {
  return {
    ...newPage(),
    theme: { type: 'clear', colour: 'heather', width: 'usual', picture: 'inside' },
    sections: sections(
      ['headline', {
        text: 'Watercolour for people who spill',
        under: 'A class of eight evenings, planned for spring. Twelve places, and this list hears about them first.',
      }],
      ['steps', { title: 'What will happen', list: numbered(
        '**Now** you leave your address and say which evenings suit you.',
        '**When the dates are set** you hear about them two days before everyone else.',
        '**Then** twelve people come, and the rest keep their place for autumn.',
      ) }],
      ['form', { title: 'Keep a chair for me' }],
      ['countdown', { date: null, time: '18:00', before: 'The list closes', after: 'The list is closed; the dates are out.' }],
      ['questions', { title: 'Good to know', questions: [
        {
          question: 'Do I have to join if I sign up here?',
          answer: words('Not at all. You hear about the dates, and decide with your calendar in hand.'),
        },
        { question: 'Do I need to know how to draw?', answer: words('You only need to hold a brush and laugh at puddles.') },
      ] }],
    ),
    form: {
      ...newForm(), firstName: 'must', buttonLabel: 'Put me on the list',
      consentWording: 'You hear when the dates are set, and again before the last place is taken.',
      asks: [{
        id: 'a1', kind: 'choice', label: 'Which evenings could you come?', required: false, many: true,
        options: answers('Tuesdays', 'Thursdays', 'Saturday mornings, really'),
      }],
    },
    confirming: asks({
      mail: mail(
        'Waiting list: is it you?', '{name|You}, a chair is being kept', 'Say that it is for you.',
        ['Dear {name|reader},', 'someone wants to paint in spring and typed this address. The chair is yours once you have clicked below.'],
        'The chair is mine', 'Without that click it goes to the next person in line.',
      ),
      reminder: { subject: line('Whose chair is this?'), afterHours: 24 },
      waitHeadline: 'Your chair has no name on it yet', waitText: words(
        'Look for my email and click its button. It takes a second, and keeps others from using your name.',
      ),
    }),
    thanks: {
      headline: 'You will hear first',
      text: words('As soon as the dates are set, you get an email. Meanwhile, find an apron.'), onward: [],
    },
    meta: {
      title: '', description: 'Eight evenings of watercolour in spring, for twelve people. The waiting list hears first.', pictureId: null,
    },
  }
}

/** The door of a course by email. */
function emailCourse(): PageContent {
  return {
    ...newPage(),
    theme: { type: 'mixed', colour: 'sand', width: 'usual', picture: 'top' },
    sections: sections(
      [
        'headline',
        { text: 'Seven days to a handwriting you like', under: 'One email each morning, one exercise, ten minutes and any pen.' },
      ],
      ['picture', { pictureId: null, alt: '', decorates: false, caption: '' }],
      ['steps', { title: 'The days', list: numbered(
        '**Slow strokes.** You find out what your hand does when nobody hurries it.',
        '**Round things.** Fifty o, and why the last ten look different.',
        '**Pairs.** Letters that lean on each other, and those that quarrel.', '**A line.** The first sentence that is worth keeping.',
        '**Rhythm.** Music helps; you will get three pieces to try.', '**Speed.** Just enough to keep the shape.',
        '**A page.** You write to somebody, and post it.',
      ) }],
      ['form', { title: 'Begin tomorrow morning' }],
      ['questions', { title: 'Before the first day', questions: [
        { question: 'Which pen?', answer: words('The one in the kitchen drawer. On the fifth day I say a word about better ones.') },
        { question: 'What if I miss a day?', answer: words('The emails wait in your mailbox, and each can be done on its own.') },
      ] }],
    ),
    form: {
      ...newForm(), firstName: 'may', buttonLabel: 'Start my seven days',
      consentWording: 'Seven emails, one a day, and then no more unless you ask for more.',
    },
    confirming: asks({
      mail: mail(
        'Handwriting: is it you?', 'Day zero: one click', 'The first morning begins after that.',
        ['Hello {name|writer},', 'before the exercises begin, I would like to know that they arrive where they should. One click does it.'],
        'Begin my seven days', 'Did someone else type your address? Then ignore this email.',
      ),
      reminder: { subject: line('Your pen is dry, but not for long'), afterHours: 20 },
      waitHeadline: 'Day zero',
      waitText: words('An email has just left for you. Its button starts the seven days; tomorrow morning brings the first.'),
    }),
    thanks: {
      headline: 'Sharpen nothing, just sit down',
      text: words('The first exercise comes tomorrow. Lay a pen and three sheets where you have breakfast.'), onward: [],
    },
    meta: {
      title: '', description: 'A free course by email: seven mornings, ten minutes each, and a handwriting you like.', pictureId: null,
    },
  }
}

/** Three questions, and the page that fits the answers. */
function chooser(): PageContent {
  const result = (id: string, name: string, kind: 'all' | 'any', of: AnswerTest[], headline: string, ...texts: string[]): ResultPage =>
    ({ id, name, when: { kind, of }, tagIds: [], thanks: { headline, text: words(...texts), onward: [] }, redirectUrl: null })
  const chosen = (askId: string, ...optionIds: string[]): AnswerTest => ({ askId, is: 'chosen', optionIds })
  return {
    ...newPage(),
    theme: { type: 'bookish', colour: 'sand', width: 'narrow', picture: 'inside' },
    sections: sections(
      [
        'headline',
        { text: 'Which loaf should be your first?', under: 'Three questions, half a minute, and a recipe that suits your week.' },
      ],
      ['form', { title: '' }],
      ['points', { title: 'Why the first one matters', list: points(
        'A loaf that **fits your hours** gets baked again.', 'A loaf that does not is remembered as the brick.',
        'All four recipes need **one bowl and no machine**.',
      ) }],
      ['footer', { text: words('These recipes come out of a shop with two ovens and a queue on Saturdays.') }],
    ),
    form: {
      ...newForm(), firstName: 'may', oneByOne: true, buttonLabel: 'Show me my loaf',
      consentWording: 'You get your recipe, and a hint when it is time for the second loaf. Hints stop with one click.',
      asks: [
        {
          id: 'a1', kind: 'choice', label: 'What does a day look like when you could bake?', required: true, many: false,
          options: answers('An evening, and then I sleep', 'A whole day at home', 'Ten minutes here and there'),
        },
        {
          id: 'a2', kind: 'choice', label: 'What kind of loaf do you want?', required: true, many: false,
          options: answers('A crust that sings', 'Something soft for children', 'A dark one that lasts all week'),
        },
        {
          id: 'a3', kind: 'choice', label: 'Is there a sourdough in your kitchen?', required: true, many: false,
          options: answers('No, and I am a little afraid of it', 'There was one, and it died', 'Yes, and it has a name'),
        },
      ],
    },
    resultPages: [
      result(
        'r1', 'Dark rye', 'all', [chosen('a1', 'o2'), chosen('a3', 'o3')], 'Yours is the dark rye',
        'You have the day, and you have the sourdough: nothing stands between you and a loaf that is still good on Friday.',
        'The recipe has just gone to your mailbox. Feed the one with the name tonight.',
      ),
      result(
        'r2', 'Overnight loaf', 'any', [chosen('a2', 'o1'), chosen('a1', 'o3')], 'Yours bakes while you sleep',
        'Stir it in the evening, forget it, and turn on the oven with the kettle.',
        'Look into your mailbox: the amounts are there, and so is the trick with the hot pot.',
      ),
      result(
        'r3', 'Milk bread', 'all', [chosen('a2', 'o2')], 'Yours is soft and gone by noon',
        'Milk, a spoon of honey, and a plait that children can do.', 'I have sent you the recipe, with a drawing of the plait.',
      ),
    ],
    confirming: asks({
      mail: mail(
        'Loaf: is it you?', 'Your loaf is known, {name|baker}', 'It waits behind the button.',
        ['Hello {name|baker},', 'three answers were given with this address, and they lead to one loaf. Click to see which.'],
        'Show me my loaf', 'If bread is not for you, just ignore this email.',
      ),
      reminder: { subject: line('The oven would be free'), afterHours: 24 },
      waitHeadline: 'Your loaf is decided',
      waitText: words('Its name is in the email that I have just sent you. Open it, click once, and read on there.'),
    }),
    promised: { fileId: null, mail: mail(
      'Loaf: the recipes', 'Your recipe, and three more', 'For the day after the first loaf.',
      ['Dear {name|baker},', 'your loaf is in here, and so are the other three, because nobody bakes only once.'], 'Open the recipes',
      'Write to me when it has come out of the oven.',
    ) },
    thanks: { headline: 'Yours is soda bread', text: words(
      'No waiting, no kneading, no sourdough: forty minutes from the bag of flour to the butter.',
      'You find the recipe in your mailbox, and a second one for the rest of the buttermilk.',
    ), onward: [] },
    meta: { title: '', description: 'Three questions that find the loaf for your first baking day.', pictureId: null },
  }
}

export const PAGE_TEMPLATES: readonly PageTemplate[] = [
  { key: 'freebie', name: 'A free download', says: 'A free file: a plan, a pattern, a checklist.', make: freebie },
  { key: 'newsletter', name: 'A newsletter', says: 'A newsletter, and what makes it worth opening.', make: newsletter },
  {
    key: 'waiting-list', name: 'A waiting list', says: 'Something that comes later, for people who want to hear first.', make: waitingList,
  },
  { key: 'email-course', name: 'An email course', says: 'The page for an email course, with its days.', make: emailCourse },
  { key: 'chooser', name: 'A chooser', says: 'A few questions that lead to the right page.', make: chooser },
]
