/** Emails worth keeping, to begin others with. Each is whole: what it is about is to be put in place of what stands there. */
import type { BlockNode, HeadingNode, MessageContent } from '../content'
import { paragraph } from '../../page/templates/words'
import { bullets, button, email } from '../../sequence/templates/write'

export interface EmailTemplate {
  key: string
  name: string
  /** When one wants it. */
  reason: string
  content: MessageContent
}

/** Addresses that lead nowhere: whoever begins with a template is told so before it leaves. */
const SITE = 'https://example.com'
const heading = (text: string, level: 2 | 3 = 2): HeadingNode => ({ type: 'heading', attrs: { level }, content: [{ type: 'text', text }] })
const LINE: BlockNode = { type: 'divider' }
const articles = (...all: [title: string, text: string, url: string][]): BlockNode => ({
  type: 'articles',
  attrs: { label: 'Read it', articles: all.map(([title, text, url]) => ({ title, text, url, pictureId: null, alt: '' })) },
})
const choice = (says: string, ...labels: string[]): BlockNode => ({
  type: 'choice', attrs: { choices: labels.map(label => ({ label, hint: '', tagId: null })), says, onlyOne: true },
})
const quote = (...words: string[]): BlockNode => ({ type: 'blockquote', content: words.map(text => paragraph(text)) })
const signed: BlockNode = { type: 'paragraph', content: [{ type: 'placeholder', attrs: { field: 'sender_name', fallback: '' } }] }
const letter = (content: MessageContent): MessageContent => ({ ...content, isLetter: true })
const asks = (content: MessageContent, callToAction: string): MessageContent => ({ ...content, callToAction })

const template = (key: string, name: string, reason: string, content: MessageContent): EmailTemplate =>
  ({ key, name, reason, content: { ...content, workingTitle: name } })

export const EMAIL_TEMPLATES: readonly EmailTemplate[] = [
  template('welcome', 'Welcome', 'The first email after somebody joins: what comes, how often, and one thing to do.', asks(email(
    '', 'You are in, {name|and welcome}', 'What comes next, and how to stop it', heading('Good to have you here'),
    'Hello {name|there},', 'thank you for coming. Here is what you will get from me, so that nothing surprises you:',
    bullets(
      'Every other Thursday, one page about what I am making', 'Now and then, a note when places in a class are free',
      'Nothing from anybody else, ever'
    ),
    'Before the first one comes, tell me what brought you here. Reply with one sentence; I read every one.',
    button('See what I am making this week', `${SITE}/bench`), signed,
  ), 'Reply with one sentence')),
  template('download', 'Download', 'Brings the file that somebody asked for, and says what to do with it first.', asks(email(
    '', 'Here is your file, {name|as promised}', 'Print page two first', heading('It is ready'),
    'Hello {name|there},', 'this is the file you asked for. It has eleven pages, and you need only two of them today.',
    button('Get the file', `${SITE}/file`), heading('How to begin', 3),
    bullets('Print page two at full size, on thick paper', 'Fold it along the dotted line', 'Keep the rest for Saturday'),
    'If it does not open, reply and I send it another way.', signed,
  ), 'Get the file')),
  template('interest', 'Which interest', 'Asks what somebody wants to hear about. Give each answer a tag of yours.', asks(email(
    '', 'May I ask you one thing?', 'One click, and you get what you came for', heading('Which of these is you?'),
    'Hello {name|there},', 'people come to me for three quite different reasons. If I know yours, I can spare you the other two.',
    choice('Good to know. From now on you get what is for you.', 'I am just starting', 'I want to get better', 'I do it for a living'),
    'You can change your mind at any time: click another one.', signed,
  ), 'Click one of three')),
  template('lesson', 'Lesson', 'One thing taught, one thing to do before the next lesson.', asks(email(
    '', 'Lesson 3: the corner that holds', 'Ten minutes, and a pencil', heading('Lesson 3: the corner that holds'),
    'Good morning {name|to you},', 'today is about a single corner. If it holds, the rest of the frame holds as well.',
    heading('What you need', 3),
    bullets('Two offcuts of the same thickness', 'A sharp pencil', 'A clamp, or somebody with patience'), heading('What you do', 3),
    'Mark both pieces together, not one after the other. Cut outside the line, and take away the last hair with the plane.',
    button('Watch it done slowly', `${SITE}/lesson-3`), LINE,
    'Until tomorrow: make one corner, and leave it overnight. In lesson 4 we try to pull it apart.', signed,
  ), 'Watch it done slowly')),
  template('story', 'Story', 'Something that happened, and what it has to do with the reader.', email(
    '', 'The kettle that taught me to wait', 'A small accident in 2009', 'Hello {name|there},',
    'in my second winter as a potter I opened a kiln four hours too early. I remember the sound. It was like rain on a tin roof.',
    'Out of sixty cups one was whole. I drink from it still.',
    quote('What is hot looks finished. It is not the same thing.'),
    'I think of that cup whenever I want to send something before it has cooled. This week it was a course that three people already asked for. It has another week to go.',
    'What are you about to open too early?', signed,
  )),
  template('invitation', 'Invitation', 'Says that something can be bought, for whom it is, and for whom it is not.', asks(email(
    '', '{name|You} and eleven others at one table', 'Six Saturdays, from January', heading('A class for twelve'),
    'Dear {name|reader},', 'from 9 January I teach the whole of hand weaving in six mornings. There are twelve looms, and so there are twelve places.',
    heading('It is for you if', 3), bullets('You have tried it alone and got stuck', 'You can come on Saturdays until lunch'),
    heading('It is not for you if', 3), bullets('You have never held a shuttle: take the free course first', 'You want a certificate'),
    button('See the six mornings', `${SITE}/class`),
    'If you are not sure, reply with your question. I would rather you stayed than regretted it.', signed,
  ), 'See the six mornings')),
  template('last-day', 'Last day', 'The one reminder on the day something closes.', asks(email(
    '', 'It closes tonight', 'After that, not before the autumn', heading('Tonight at eight'),
    'Hello {name|there},', 'a short one. The class closes tonight at eight, because the paper is ordered tomorrow morning.',
    bullets(
      'Everything I teach in it is on the page', 'You can pay in three parts', 'You can leave within two weeks and get all of it back'
    ),
    button('Take a place', `${SITE}/class`), 'If you have decided against it, there is nothing to do, and I will not ask again.', signed,
  ), 'Take a place')),
  template('thanks', 'Thanks for buying', 'After a purchase: what happens now, and where to ask.', asks(email(
    '', 'Thank you, {name|and what happens now}', 'Three things, and the first is tea', heading('It is yours'),
    'Dear {name|buyer},', 'thank you. I know that you could have spent this on shoes.', heading('What happens now', 3),
    bullets(
      'Today: your receipt is on its way in an email of its own', 'On Monday at seven: the first lesson',
      'By the end of the week: a parcel with thread and wax'
    ),
    button('Open your class', `${SITE}/yours`), 'Whenever something is not as you expected, reply to this. It reaches me and nobody else.',
    signed,
  ), 'Open your class')),
  template('still-interested', 'Still interested', 'Asks people who have been silent whether they want to stay.', asks(letter(email(
    '', 'Shall I stop writing to you?', 'A fair question after so long', 'Hello {name|there},',
    'you have not opened anything of mine for some months. That is quite all right. Inboxes fill up, and interests change.',
    'If you would like to stay, click the line below. If you do nothing, I stop in two weeks, without hard feelings.',
    button('Yes, keep writing to me', `${SITE}/stay`), 'Either way, thank you for having listened.', signed,
  )), 'Say that you stay')),
  template('articles', 'Article list', 'Three or four things to read, each with a sentence that says whether it is for you.', email(
    '', 'Three things from this month', 'Glue, light, and a mistake', heading('From the workshop in November'),
    'Hello {name|there},', 'this is what I wrote since the last letter. Take the one that is for you and leave the others.',
    articles(
      ['Glue that can be undone', 'Why I went back to flour paste, and what I no longer use it for.', `${SITE}/glue`],
      ['Where to put the lamp', 'Left of you, higher than you think. With a drawing.', `${SITE}/lamp`],
      ['My most expensive cut', 'A whole hide, one stroke, and how I use the pieces now.', `${SITE}/cut`],
    ), LINE, signed,
  )),
  template('webinar', 'Webinar reminder', 'On the day: when it is, how to get in, and what if one cannot.', asks(email(
    '', 'Today at seven: bring a pencil', 'The link, and what if you cannot come', heading('We meet tonight'),
    'Hello {name|there},', 'tonight at seven we draw one hand together. It takes fifty minutes, and you need a pencil and the back of an envelope.',
    button('Open the room', `${SITE}/room`), heading('Good to know', 3),
    bullets(
      'The room opens ten minutes before', 'Nobody sees or hears you unless you want it', 'You can ask by typing, and I answer at the end'
    ),
    'If you cannot come, do nothing: tomorrow you get what was recorded.', signed,
  ), 'Open the room')),
  template('letter', 'Plain letter', 'As you would type it to one person. Nothing is drawn.', letter(email(
    '', 'A quick thought, {name|if I may}', 'No news, only a question', 'Hello {name|there},',
    'I was sorting buttons this morning, of all things, and thought of you who write to me on Sundays.',
    'So a question, and no more than that: what would you make next, if nobody ever saw it?',
    'Reply if you like. I read everything, though not always the same day.', signed,
  ))),
]
