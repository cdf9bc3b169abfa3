/** What the public pages need to know. */
import type { PublishedPage } from '#data/pages'
import { findPublishedPage } from '#data/pages'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { NotThere } from '../problem'

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
