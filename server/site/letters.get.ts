/** Emails that are shared with everybody, by their titles. */
import { defineEventHandler } from 'h3'
import { renderArchive } from '#core/broadcast/archive'
import { sharedLetters } from '#usecases/reading/sharedEmails'
import { publicFace, publicZone } from '#usecases/views/publicPages'
import { contextAt, FILES, page, pathAt, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    return page(event, renderArchive({
      ...publicFace(context), files: FILES, letters: sharedLetters(context), zone: publicZone(context),
      to: ({ id }) => pathAt(event, `/letters/${id}`), feed: pathAt(event, '/letters/feed.xml'),
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
