/**
 * The words that are ours or that we use in one meaning: what each says, in a sentence or two. The screens explain themselves from here,
 * and docs/guide/words.md is made from it.
 */

export interface Entry {
  word: string
  says: string
  /** How it works, where a screen is about it: a sentence each. */
  how?: string[]
}

export const GLOSSARY = {
  'today': {
    word: 'Today', says: 'What needs you this morning, what goes out next, and how the last 28 days went.',
    how: [
      'Needs attention is sorted by urgency: what goes wrong at a known time comes first.',
      'Growth counts people who arrived and people who unsubscribed, bounced or complained.',
      'Opens and clicks are those of the emails sent in the 28 days. Confirmation requests are left out.',
    ],
  },
  'opt-in-page': {
    word: 'opt-in page', says: 'A public page with a form, where people sign up.',
    how: [
      'What you change is saved at once, and visitors see it when you publish.',
      'An opt-in can give tags, join lists and send a file. A course starts when someone gets its tag.',
      'If you ask for confirmation, nothing counts until the person has clicked the link in the email.',
    ],
  },
  'email-part': {
    word: 'email part', says: 'A piece of email that you write once and show in several: a signature, a row of links.',
    how: [
      'Type “/” in an email to show a part there, or keep a block that you have written as a part.',
      'When you change a part, every email that shows it changes, if it is not sent yet.',
      'What was sent stays as it was. A part can hold versions for some, but not another part.',
    ],
  },
  'broadcast': {
    word: 'broadcast', says: 'One email to one audience, once.',
    how: [
      'You see who gets it, who is held back and why, before anything leaves. Each number opens its people.',
      'Its audience is settled when sending begins. Just before each email leaves, it is checked again.',
      'After you press the button you have a minute to cancel. While it leaves you can pause or stop it.',
    ],
  },
  'offer': {
    word: 'offer', says: 'Something you sell: a page, a price, and what buyers get.',
    how: [
      'An offer can open and close, have a number of places, coupons and a waiting list.',
      'Buyers get its tags, join its lists and start its course. Emails that sell it are held back from people who have it.',
    ],
  },
  'subscriber': {
    word: 'subscriber', says: 'One person with one email address.',
    how: [
      'Active people can get mail. Pending people have not confirmed yet. Resting people get no mail until they are woken.',
      'Every page of a subscriber has the full history: what they did, what they were sent, and why something was held back.',
    ],
  },
  'list': { word: 'list', says: 'A kind of mail that people agree to. They see its public name and can leave it.' },
  'tag': { word: 'tag', says: 'A private note about a person. It can start a course, and it can expire.' },
  'tags-and-lists': {
    word: 'tags and lists', says: 'Lists are what people agreed to; tags are what you know about them.',
    how: [
      'Every email belongs to a list. People who leave the list get no more of its emails.',
      'Tags are never seen by readers unless you give them a public name. A tag can start a course or a house rule.',
      'Fields hold facts, such as a birthday or a country.',
    ],
  },
  'segment': {
    word: 'segment', says: 'A saved condition about people. It is always up to date.',
    how: [
      'Nobody is added or removed by hand: people come in when the condition becomes true, and go out when it is no longer.',
      'A segment can be used in other conditions, in house rules and in exports.',
    ],
  },
  'link': {
    word: 'tracked link', says: 'A named destination that knows who clicked it.',
    how: [
      'Links in your emails appear here once you publish. If you change where a link leads, emails already sent lead there, too.',
      'A click can add a tag or start something. Automated clicks, by scanners and robots, are counted apart and do nothing.',
    ],
  },
  'house-rule': {
    word: 'house rule', says: 'A sentence: when something happens, for whom, and what is done at once.',
    how: [
      'A rule acts the moment something happens. Whatever takes time belongs in a course.',
      'From one beginning each rule acts at most once per person, so rules can never go round in a circle.',
    ],
  },
  'course': {
    word: 'course', says: 'Emails and other steps, timed from the moment a person joins.',
    how: [
      'Everybody who joins has their own dates. You see them for a sample joiner while you write.',
      'You can change a running course. Readers get the published version until you publish.',
      'Each email waits for the sending hours, unless the person has just asked for it.',
    ],
  },
  'step': { word: 'step', says: 'One thing that happens in a course. Every step has its own time.' },
  'hold': { word: 'hold', says: 'A step that waits until something happens, but no longer than you allow.' },
  'fork': { word: 'fork', says: 'A step that sends people different ways. The first condition that is true decides.' },
  'ways-in-and-out': { word: 'ways in and out', says: 'Everything that starts or ends a course for a person, gathered in one place.' },
  'rehearsal': { word: 'rehearsal', says: 'The real engine plays a course on a copy, so you see day by day what a reader would get.' },
  'sending-hours': {
    word: 'sending hours',
    says: 'When emails may leave, in the workspace’s zone or, if a step says so, in the reader’s. Others wait until they open.',
  },
  'asked-for-mail': { word: 'asked-for mail', says: 'An email the person has just asked for, like a confirmation. It leaves at any hour.' },
  'held-back': { word: 'held back', says: 'An email that was not sent, always with the reason.' },
  'warm-up': {
    word: 'warm-up', says: 'A plan for a new sender: few emails a day at first, and more each day, until receivers know it.',
  },
  'never': { word: 'never', says: 'The part of a condition that always wins: people in it are left out.' },
  'reader-open': {
    word: 'reader open', says: 'An open by a person. Opens by mail programs and scanners are uncertain and counted apart.',
  },
  'score': { word: 'score', says: 'Points for what a person does. You set what counts, and how points fade.' },
  'resting': { word: 'resting', says: 'People who get no mail for now, because they have been silent or you let them rest.' },
  'working-title': { word: 'working title', says: 'What you call an email. Readers never see it.' },
  'source': {
    word: 'source', says: 'Where a person came from: a page, an import, a campaign link.',
    how: [
      'Add ?from=… to the address of a page for each place you hand it out, and every opt-in knows where it came from.',
      'With what a source cost, you see what a subscriber from there costs and brings.',
    ],
  },
  'coming-days': {
    word: 'coming days', says: 'Every email that is expected to go out, day by day, with how many people get it.',
    how: ['It is worked out from where people are now. People who leave or buy in the meantime will get fewer emails.'],
  },
  'engine-room': {
    word: 'engine room', says: 'What waits for its time, what is being done, and what could not be sent.',
    how: ['The engine sends day and night, on its own. After an outage it works through what is overdue, in order.'],
  },
  'practice': {
    word: 'practice', says: 'A workspace where nothing really leaves. You move its clock yourself.',
    how: [
      'Emails arrive in the practice mailbox. Open them, click in them, and see what follows.',
      'Going live makes a second workspace. Practice stays, for whatever you try next.',
    ],
  },
  'to-do': { word: 'to-do', says: 'Something for you or a helper to do for a person, made by a rule, a course or by hand.' },
  'sales': {
    word: 'sales', says: 'Who bought an offer, where they came from, and what they paid.',
    how: [
      'The source is where a buyer came from. The email is the last one they clicked before buying.',
      'Money counts on the day it was paid, minus later refunds. Currencies are never added up.',
    ],
  },
  'sender': {
    word: 'sender', says: 'A name and an address your emails come from.',
    how: [
      'You confirm an address once, with a code sent to it. Until then its emails wait.',
      'A sender chosen in an email comes first, then one by tag, then one by list.',
      'A key published at your domain signs every email, so that receivers know it is yours.',
    ],
  },
  'block': { word: 'block', says: 'A part of an email: a text, a picture, a button. It can be moved, doubled, named or left out.' },
  'webhook': {
    word: 'webhook', says: 'A web address that another program is called by, or calls us by.',
    how: [
      'Each call is signed by the Standard Webhooks specification. One that fails is tried again for a day.',
      'Each call is listed with what was sent and what came back.',
    ],
  },
} as const satisfies Record<string, Entry>

export type GlossaryKey = keyof typeof GLOSSARY

export const entryOf = (key: GlossaryKey): Entry => GLOSSARY[key]

/** No line of a document is longer; none is cut but between words. */
const WIDEST = 120

function folded(text: string): string {
  const lines: string[] = []
  for (const word of text.split(' ')) {
    const last = lines.at(-1)
    if (last !== undefined && last.length + 1 + word.length <= WIDEST) lines[lines.length - 1] = `${last} ${word}`
    else lines.push(word)
  }
  return lines.join('\n')
}

/** The glossary as the document of the guide. */
export function glossaryDocument(): string {
  const entries = Object.values<Entry>(GLOSSARY).sort((a, b) => a.word.toLowerCase().localeCompare(b.word.toLowerCase(), 'en'))
  return [
    '# Words', 'The words of Keen Porch, one for each thing. The screens explain them in the same sentences.',
    ...entries.map(({ word, says, how }) => folded([`**${word}**: ${says}`, ...how ?? []].join(' '))), '',
  ].join('\n\n').replace(/\n+$/, '\n')
}
