/** A page with a section of every kind and every sort of question, all of whose words are the same. */
import { newPage, type PageContent } from '#core/page/content'
import { newForm } from '#core/page/form'
import { answers } from '#core/page/templates/words'
import { newSection, SECTION_KINDS, type ListText, type Section } from '#core/page/section'
import { paragraphs } from '#core/page/text'

export function everyPage(words: string): PageContent {
  const list = (type: 'bulletList' | 'orderedList'): ListText => ({
    type: 'doc', content: [{ type, content: [{ type: 'listItem', content: paragraphs(words).content as never }] }],
  })
  const told: Record<string, object> = {
    headline: { text: words, under: words }, text: { text: paragraphs(words) }, picture: { pictureId: 7, alt: words, caption: words },
    points: { title: words, list: list('bulletList') }, quote: { text: words, who: words },
    form: { title: words }, countdown: { date: '2026-11-28', time: '20:00', before: words, after: words }, steps: {
      title: words, list: list('orderedList'),
    }, questions: { title: words, questions: [{ question: words, answer: paragraphs(words) }] }, footer: { text: paragraphs(words) },
  }
  const page = newPage()
  return {
    ...page,
    sections: SECTION_KINDS.map((kind, n) => ({ ...newSection(kind, `s${n + 1}`), name: words, ...told[kind] }) as Section),
    form: {
      ...newForm(), firstName: 'must', buttonLabel: words, consentWording: words,
      asks: [
        { id: 'a1', kind: 'field', fieldId: 1, label: words, required: true },
        { id: 'a2', kind: 'field', fieldId: 2, label: words, required: false },
        { id: 'a3', kind: 'choice', label: words, required: true, many: true, options: answers([words, 1], [words, 2]) },
      ],
      boxes: [{ id: 'b1', wording: words, required: true, listIds: [2], tagIds: [3] }],
    },
    listIds: [1],
    thanks: { headline: words, text: paragraphs(words), onward: [{ label: words, url: 'https://example.com/a' }] },
    meta: { title: words, description: words, pictureId: null },
  }
}
