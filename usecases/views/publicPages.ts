/** What the public pages need to know. */
import { picturesOf } from '#core/page/content'
import type { OptInView } from '#core/page/render'
import { allFields } from '#data/fields'
import type { PublishedPage } from '#data/pages'
import { picturesByIds } from '#data/pictures'
import { findPublishedPage } from '#data/pages'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

export type { PublishedPage }

export function publishedPage(context: WorkspaceContext, slug: string): PublishedPage {
  const page = findPublishedPage(context.db, slug)
  if (!page) throw new NotThere('There is no page at this address. It may have been taken down, or the address is incomplete.')
  return page
}

export function publicFace(context: WorkspaceContext): { senderName: string, senderAddress: string, postalAddress: string } {
  const { name, senderName, senderAddress, postalAddress } = workspaceOf(context.db)
  return { senderName: senderName || name, senderAddress, postalAddress }
}

/** The zone in which public pages tell times. */
export const publicZone = (context: WorkspaceContext): string => workspaceOf(context.db).zone

/** What a page's drawing needs besides the visit: its pictures and fields, the hour and whose it is. */
export function drawingOf(
  context: WorkspaceContext, { content, slug }: PublishedPage,
): Pick<OptInView, 'pictures' | 'fields' | 'now' | 'zone' | 'url'> {
  const { db } = context
  const wanted = content.form.asks.flatMap(ask => ask.kind === 'field' ? ask.fieldId : [])
  return {
    pictures: new Map(picturesByIds(db, picturesOf(content)).map(picture => [picture.id, picture])),
    fields: new Map((wanted.length === 0 ? [] : allFields(db)).map(field => [field.id, field])),
    now: context.clock.now(), zone: publicZone(context), url: `${context.baseUrl}/p/${slug}`,
  }
}
