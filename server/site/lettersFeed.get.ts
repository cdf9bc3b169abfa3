/** The same as an Atom feed. */
import { defineEventHandler, setResponseHeader } from 'h3'
import { sharedLetters } from '#usecases/reading/sharedEmails'
import { publicFace } from '#usecases/views/publicPages'
import { contextAt, forAnySite, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const { atomOf } = await import('#runtime/feed')
    const { senderName } = publicFace(context)
    const url = `${context.baseUrl}/letters`
    const feed = atomOf({
      title: `Emails from ${senderName}`, url, feedUrl: `${url}/feed.xml`, to: ({ id }) => `${url}/${id}`, author: senderName,
      letters: sharedLetters(context), madeAt: context.clock.now(),
    })
    forAnySite(event)
    setResponseHeader(event, 'content-type', 'application/atom+xml; charset=utf-8')
    setResponseHeader(event, 'cache-control', 'public, max-age=300')
    return feed
  }
  catch (error) {
    return troublePage(event, error)
  }
})
