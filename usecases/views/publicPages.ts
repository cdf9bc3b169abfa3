/** What the public pages need to know. */
import { picturesOf } from '#core/page/content'
import type { OptInView } from '#core/page/render'
import { allFields } from '#data/fields'
import type { PublishedPage } from '#data/pages'
import { picturesByIds } from '#data/pictures'
import { findPublishedPage } from '#data/pages'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { NotThere } from '../problem'

export type { PublishedPage }

export function publishedPage(house: House, slug: string): PublishedPage {
  const page = findPublishedPage(house.db, slug)
  if (!page) throw new NotThere('There is no page at this address. Perhaps it was taken down, or a letter is missing.')
  return page
}

export function publicFace(house: House): { senderName: string, senderAddress: string, postalAddress: string } {
  const { name, senderName, senderAddress, postalAddress } = workspaceOf(house.db)
  return { senderName: senderName || name, senderAddress, postalAddress }
}

/** The zone in which public pages tell times. */
export const publicZone = (house: House): string => workspaceOf(house.db).zone

/** What a page's drawing needs besides the visit: its pictures and fields, the hour and whose it is. */
export function drawingOf(house: House, { content, slug }: PublishedPage): Pick<OptInView, 'pictures' | 'fields' | 'now' | 'zone' | 'url'> {
  const { db } = house
  const wanted = content.form.asks.flatMap(ask => ask.kind === 'field' ? ask.fieldId : [])
  return {
    pictures: new Map(picturesByIds(db, picturesOf(content)).map(picture => [picture.id, picture])),
    fields: new Map((wanted.length === 0 ? [] : allFields(db)).map(field => [field.id, field])),
    now: house.clock.now(), zone: publicZone(house), url: `${house.baseUrl}/p/${slug}`,
  }
}
