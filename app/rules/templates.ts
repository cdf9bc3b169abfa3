/** The things of a workspace that ready rules are made of. */
import type { Need, RuleTemplateParts } from '#core/rules/templates'
import type { RuleParts } from '#core/views/rules'

export function ruleTemplatePartsOf({ pages, tags, lists, links, offers, courses, brought }: RuleParts): RuleTemplateParts {
  return {
    pageId: pages[0]?.id ?? 0, tagId: tags.find(tag => !tag.blanks)?.id ?? 0, listId: lists[0]?.id ?? 0, linkId: links[0]?.id ?? 0,
    offerId: offers[0]?.id ?? 0, courseId: courses[0]?.id ?? 0,
    sourceWord: brought.find(({ source }) => source.kind === 'named')?.source.word ?? null,
  }
}

export const hasFor = (parts: RuleTemplateParts): Record<Need, boolean> => ({
  page: parts.pageId > 0, tag: parts.tagId > 0, list: parts.listId > 0, link: parts.linkId > 0, offer: parts.offerId > 0,
  course: parts.courseId > 0,
})
