/** The pages of Saltmarsh Bindery. */
import { newConfirming } from '#core/page/confirm'
import { newPage, type PageContent } from '#core/page/content'
import { newPromised } from '#core/page/promise'
import { bringFile } from '#usecases/arrive/files'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { bringPicture } from '#usecases/arrive/pictures'
import type { WorkspaceContext } from '#usecases/context'
import { BENCH_PICTURE, sheetKitPdf } from './kit'
import { newForm } from '#core/page/form'
import type { ResultPage } from '#core/page/result'
import { answers, line, numbered, points, sections, words } from '#core/page/templates/words'
import { email, ownButton } from '#core/sequence/templates/write'

/** Their addresses. */
export const PAGES = { kit: 'sheet-kit', course: 'fold-sew-cover', chooser: 'which-book' } as const

interface Given {
  listId: number, lettersId: number, kitTagId: number, courseTagId: number, whenId: number, copticId: number, longStitchId: number,
  marblingId: number, booksFieldId: number,
}

export async function pages(context: WorkspaceContext, given: Given): Promise<void> {
  await publish(context, 'Sheet kit', PAGES.kit, await kitPage(context, given))
  await publish(context, 'Course page', PAGES.course, coursePage(given))
  await publish(context, 'Which book first?', PAGES.chooser, chooserPage(given))
}

async function kitPage(
  context: WorkspaceContext, { listId, lettersId, kitTagId, whenId, copticId, longStitchId, marblingId, booksFieldId }: Given,
): Promise<PageContent> {
  const picture = await bringPicture(context, 'bench.svg', await context.pictures.draw(BENCH_PICTURE))
  const file = bringFile(context, 'Saltmarsh sheet kit.pdf', 'application/pdf', sheetKitPdf())
  const page = newPage()
  const confirming = newConfirming()
  return {
    ...page,
    theme: { type: 'mixed', colour: 'harbour', width: 'usual', picture: 'top' },
    sections: sections(
      ['headline', {
        text: 'Twelve sheets that want to be a book',
        under: 'Print them, fold them, and by the weekend you hold a small book that you have made from the first fold to the last stitch.',
      }],
      ['picture', {
        pictureId: picture.id, alt: 'A half-sewn blue book on a wooden bench, with an awl and red thread, by a window on the marsh',
        decorates: false, caption: '',
      }],
      ['points', { title: 'In the kit, free and at once', list: points(
        '**Twelve sheets** to print at home, with folding marks that vanish inside', 'A list of **six tools**, four of which you own',
        '**Five short letters** that show each step, spread over a week',
      ) }],
      ['form', { title: 'Where shall we send it?' }],
      ['quote', {
        text: 'I had never sewn anything but a button. My daughter keeps her drawings in it now.',
        who: 'Thora, who began on a rainy Sunday',
      }],
      ['questions', { title: 'Before you ask', questions: [
        { question: 'Do I need special paper?', answer: words(
          'No. Whatever is in your printer will do for the first book; the second letter says what to look for when you want more.',
        ) },
        {
          question: 'What if I get stuck?',
          answer: words('Answer any of the letters. They come from a person, and a person reads what comes back.'),
        },
      ] }],
    ),
    form: {
      ...newForm(), firstName: 'may', buttonLabel: 'Send me the sheet kit',
      asks: [
        { id: 'a1', kind: 'choice', label: 'What would you like to make?', required: false, many: true, options: answers(
          ['A notebook that lies flat', copticId], ['A soft book for the pocket', longStitchId], ['Papers with colour in them', marblingId],
        ) },
        { id: 'a2', kind: 'field', fieldId: booksFieldId, label: 'How many books have you made so far?', required: false },
      ],
      boxes: [{
        id: 'b1', wording: 'Send me the letters from the bench, too: a technique, a mended book, a new class. Twice a month at most.',
        required: false, listIds: [lettersId], tagIds: [],
      }],
      consentWording: 'You get the kit and the five letters of the free course. One click stops them, at any time.',
    },
    listIds: [listId],
    tagIds: [kitTagId, whenId],
    confirming: {
      ...confirming, who: 'everybody',
      mail: email('Sheet kit: was it you?', 'Your twelve sheets are waiting', 'One click, and they are yours.',
        'Hello {name|there},', 'someone asked for the sheet kit with this address. If it was you, click the button, and the sheets come at once. If it was not, ignore this letter, and nothing else will come.', ownButton('Yes, send me the sheets'), 'Ines, at the bench'),
      reminder: { subject: line('Shall we keep the sheets for you?'), afterHours: 24 },
      waitHeadline: 'Now look into your mailbox',
      waitText: words('A short letter is on its way. Click the button in it, and the sheets come at once.'),
    },
    promised: {
      ...newPromised(file.id, file.name),
      mail: email(
        'Sheet kit: the sheets', 'Your twelve sheets', 'Print them on both sides, short edge.', 'Hello {name|there},',
        'here they are. Print them on both sides, turned over at the short edge, and cut nothing yet.', ownButton('Open the sheet kit'),
        'The first letter of the course comes beside this one. Clear a table for tomorrow.',
      ),
    },
    thanks: { headline: 'It is on its way', text: words(
      'Look for a letter from Ines of Saltmarsh Bindery. If it is not there in five minutes, look where your mail program puts what it does not trust, and tell it that bookbinders are harmless.',
    ), onward: [{ label: 'See what others have made from the twelve sheets', url: 'https://saltmarsh.example.com/made' }] },
    meta: {
      title: '', description: 'A free kit for a first book: twelve sheets to print, six tools, five short letters.', pictureId: null,
    },
  }
}

function coursePage({ listId, courseTagId, whenId }: Given): PageContent {
  const page = newPage()
  return {
    ...page,
    theme: { type: 'bookish', colour: 'sand', width: 'narrow', picture: 'inside' },
    sections: sections(
      ['headline', { text: 'Fold, Sew, Cover', under: 'A free course by email for people who have never bound anything.' }],
      ['text', { text: words(
        'Five letters in a week; each asks for half an hour, a table and good light. It begins the moment you click the button and ends with a book in your hand.',
      ) }],
      ['steps', { title: 'The week', list: numbered(
        '**Fold.** Twelve sheets, four gatherings, one bone folder or the back of a spoon.',
        '**Sew.** A needle, a thread, and a stitch that sailors knew.', '**Cover.** Board from an old box and the cloth you like best.',
      ) }],
      ['form', { title: '' }],
    ),
    form: {
      ...newForm(), firstName: 'must', buttonLabel: 'Begin today',
      consentWording: 'You get the five letters of this course and nothing else. You can leave in every one of them.',
    },
    listIds: [listId],
    tagIds: [courseTagId, whenId],
    confirming: { ...page.confirming, who: 'nobody' },
    thanks: {
      headline: 'Your first letter has left', text: words('It holds the sheets to print. Clear a table for tomorrow.'), onward: [],
    },
  }
}

function chooserPage({ lettersId, whenId, copticId, longStitchId, marblingId }: Given): PageContent {
  const page = newPage()
  const result = (id: string, name: string, tagId: number, kind: 'all' | 'any', of: [
    askId: string, optionId: string,
  ][], headline: string, ...texts: string[]): ResultPage => ({
    id, name, when: { kind, of: of.map(([askId, optionId]) => ({ askId, is: 'chosen', optionIds: [optionId] })) }, tagIds: [tagId],
    thanks: {
      headline, text: words(...texts), onward: [{ label: 'Begin with the twelve sheets', url: 'https://saltmarsh.example.com/sheets' }],
    }, redirectUrl: null,
  })
  return {
    ...page,
    theme: { type: 'clear', colour: 'meadow', width: 'narrow', picture: 'inside' },
    sections: sections(
      ['headline', { text: 'Which book should you bind first?', under: 'Two questions, and a bench that has seen most answers.' }],
      ['form', { title: '' }],
    ),
    form: {
      ...newForm(), firstName: 'may', oneByOne: true, buttonLabel: 'Tell me my book',
      consentWording: 'You get your answer and the letters from the bench, twice a month at most. You can leave with one click.',
      asks: [
        {
          id: 'a1', kind: 'choice', label: 'What is going to live in it?', required: true, many: false,
          options: answers('Drawings, wet ones too', 'Words, mostly in pencil', 'Leaves, tickets, whatever I find'),
        },
        {
          id: 'a2', kind: 'choice', label: 'Where will it be at noon?', required: true, many: false,
          options: answers('Flat on a table', 'In a coat pocket', 'On a shelf, to be looked at'),
        },
      ],
    },
    listIds: [lettersId],
    tagIds: [whenId],
    resultPages: [
      result(
        'r1', 'Coptic', copticId, 'any', [['a1', 'o1'], ['a2', 'o1']], 'A Coptic notebook',
        'It opens flat on every page, takes wet paint without sulking, and shows its sewing on the spine.',
      ),
      result(
        'r2', 'Marbled papers', marblingId, 'all', [['a1', 'o3'], ['a2', 'o3']], 'Begin with its coat',
        'A box of found things wants a cover first: marble four sheets, and build the book to fit them.',
      ),
      result(
        'r3', 'Long-stitch', longStitchId, 'all', [['a2', 'o2']], 'A long-stitch pocket book',
        'Soft covers, one leather scrap, an afternoon. It survives coats.',
      ),
    ],
    confirming: { ...page.confirming, who: 'nobody' },
    thanks: {
      headline: 'A plain pamphlet, well made',
      text: words('Five sheets, one thread, three holes. It is how everybody at this bench began, and half of us still do.'), onward: [],
    },
    meta: { title: '', description: 'Two questions that find the book to bind first.', pictureId: null },
  }
}

async function publish(context: WorkspaceContext, name: string, slug: string, draft: PageContent): Promise<void> {
  const id = createPage(context, name)
  savePage(context, id, { name, slug, draft })
  await publishPage(context, id)
}
