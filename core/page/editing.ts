/**
 * The page as its own canvas: in the editor, the very same HTML says which
 * parts can be written in. `parts` of an editable page carry `data-edit`, a
 * path into the content, and `data-as`, the sort of text that stands there.
 */
import { html, type Html } from './html'

/** One line; text with headings, lists and links; one list and nothing else. */
export type EditedAs = 'line' | 'rich' | 'list'

/** The attributes of an element whose inside is that part of the page; nothing on a page that is not being edited. */
export type Mark = (path: string, as: EditedAs, label: string) => Html | ''

export const noMark: Mark = () => ''
export const editMark: Mark = (path, as, label) => html` data-edit="${path}" data-as="${as}" data-label="${label}"`
