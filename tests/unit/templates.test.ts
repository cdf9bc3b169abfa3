import { describe, expect, it } from 'vitest'
import { missingForPublishing } from '#core/page/content'
import { PAGE_TEMPLATES } from '#core/page/templates/pages'
import { pageInput } from '../../server/pageSchemas'

/** Everything that is read on a page or in its emails, sentence by sentence. */
function sentencesOf(content: unknown): string[] {
  const found: string[] = []
  const walk = (value: unknown, key: string): void => {
    if (typeof value === 'string') {
      if (![
        'id', 'kind', 'type', 'name', 'field', 'fallback', 'time', 'who', 'colour', 'width', 'picture', 'firstName', 'workingTitle',
      ].includes(key)) found.push(...value.split(/(?<=[.?!])\s+/).map(text => text.trim()).filter(text => text.split(' ').length >= 3))
    }
    else if (Array.isArray(value)) value.forEach(one => walk(one, key))
    else if (value && typeof value === 'object') Object.entries(value).forEach(([name, one]) => walk(one, name))
  }
  walk(content, '')
  return found
}

describe('the finished pages', () => {
  it.each(
    PAGE_TEMPLATES.map(template => [template.name, template] as const),
  )('%s fits, and wants only a list, its pictures and its file to be published', (_, template) => {
    const draft = template.make()
    expect(pageInput.validate({ name: 'x', slug: 'x', draft }).error).toBeUndefined()
    const wanting = missingForPublishing(draft).map(({ field }) => draft.sections.find(({ id }) => id === field)?.kind ?? field)
    expect(wanting.filter(what => !['listIds', 'picture', 'countdown', 'file'].includes(what))).toEqual([])
  })

  it('share no sentence, and say enough to be worth copying', () => {
    const said = PAGE_TEMPLATES.map(template => sentencesOf(template.make()))
    for (const sentences of said) expect(new Set(sentences).size).toBeGreaterThan(20)
    const all = said.flatMap(sentences => [...new Set(sentences)])
    expect(all.filter((sentence, n) => all.indexOf(sentence) !== n)).toEqual([])
  })

  it('are made anew for each copy', () => {
    for (const { make } of PAGE_TEMPLATES) {
      const one = make()
      one.sections.splice(0)
      expect(make().sections.length).toBeGreaterThan(3)
    }
  })
})
