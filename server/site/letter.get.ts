/** One email that is shared. Nothing in it can run. */
import { defineEventHandler, getRouterParam, setResponseHeader } from 'h3'
import { NotThere } from '#usecases/problem'
import { sharedEmail } from '#usecases/reading/sharedEmails'
import { contextAt, emailPage, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const id = Number(getRouterParam(event, 'id'))
    if (!Number.isSafeInteger(id) || id < 1) throw new NotThere('This email is not shared here.')
    const { html } = await sharedEmail(context, id, `${context.baseUrl}/letters`)
    setResponseHeader(event, 'cache-control', 'public, max-age=300')
    return emailPage(event, html)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
