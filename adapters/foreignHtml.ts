/** HTML as somebody wrote it: what an email can hold of it, and its words. */
import { convert } from 'html-to-text'
import sanitizeHtml from 'sanitize-html'
import type { Foreign } from '#core/message/writer'

const STYLES = [
  'color', 'background-color', 'text-align', 'text-decoration', 'font-size', 'font-weight', 'font-style', 'font-family', 'line-height',
  'padding', 'padding-left', 'padding-right', 'padding-top', 'padding-bottom', 'margin', 'margin-left', 'margin-right', 'margin-top',
  'margin-bottom', 'border', 'border-left', 'border-right', 'border-top', 'border-bottom', 'border-collapse', 'border-radius', 'width',
  'max-width', 'height', 'vertical-align',
]
/** Nothing that loads from elsewhere or runs. */
const HARMLESS = /^(?!.*(?:url\(|expression|javascript:|@import|\\)).{1,200}$/i

/** Without what runs, loads or reaches out of its place. The same text gives the same HTML. */
const clean = (source: string): string => sanitizeHtml(source, {
  allowedTags: [
    ...sanitizeHtml.defaults.allowedTags.filter(tag => !['main', 'nav', 'section', 'article', 'header', 'footer', 'aside'].includes(tag)),
    'img', 'center', 'font',
  ],
  allowedAttributes: {
    '*': ['style', 'align', 'valign', 'width', 'height', 'bgcolor', 'dir', 'lang', 'role', 'title'],
    'a': ['href', 'name'], 'img': ['src', 'alt', 'border'], 'table': ['cellpadding', 'cellspacing', 'border'],
    'td': ['colspan', 'rowspan'], 'th': ['colspan', 'rowspan', 'scope'], 'font': ['color', 'face', 'size'],
  },
  allowedSchemes: ['http', 'https', 'mailto', 'tel'],
  allowedSchemesByTag: { img: ['https', 'http'] },
  allowProtocolRelative: false,
  allowedStyles: { '*': Object.fromEntries(STYLES.map(style => [style, [HARMLESS]])) },
  disallowedTagsMode: 'discard',
})

/** What is left for people who read text only. */
const words = (source: string): string => convert(clean(source), {
  wordwrap: false, selectors: [{ selector: 'a', options: { hideLinkHrefIfSameAsText: true } }, { selector: 'img', format: 'skip' }],
}).trim()

export const foreignHtml: Foreign = { clean, words }
