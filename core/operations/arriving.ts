/** Opt-in pages, their pictures and files, and what brings people to them. */
import type { PictureView } from '#core/page/picture'
import type { SourceKey } from '#core/page/touch'
import type { FileView, PageBeginning, PageInput, PageLine, PageResults, PageView } from '#core/views/pages'
import type { CourseBeginning } from '#core/views/course'
import type { SourceCosts, SourceCostsInput, SourcesView } from '#core/views/sources'
import type { Nothing } from './operation'

export interface ArrivingOperations {
  'GET /pages': { answer: PageLine[] }
  'POST /pages': { body: { name: string, beginning: PageBeginning }, answer: { id: number } }
  'POST /pages/with-course': {
    body: { name: string, beginning: PageBeginning, course: CourseBeginning, listId: number | null }
    answer: { id: number, courseId: number }
  }
  'GET /pages/:id': { answer: PageView }
  'PUT /pages/:id': { body: PageInput, answer: PageView }
  'DELETE /pages/:id': { answer: Nothing }
  'POST /pages/:id/publish': { answer: PageView }
  'DELETE /pages/:id/publish': { answer: PageView }
  'PUT /pages/:id/shown': { body: { from: number | null, to: number | null }, answer: PageView }
  'GET /pages/:id/results': { query: { days: number }, answer: PageResults }
  'POST /pictures': { query: { name: string, type: string }, file: true, answer: PictureView }
  'POST /files': { query: { name: string, type: string }, file: true, answer: FileView }
  'GET /sources': { query: { months: number }, answer: SourcesView }
  'POST /sources': { body: { name: string }, answer: { id: number } }
  'GET /sources/costs': { query: SourceKey, answer: SourceCosts }
  'PUT /sources/costs': { body: SourceCostsInput, answer: SourceCosts }
}
