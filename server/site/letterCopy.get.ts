/** A copy of an email for another workspace, for whoever has its link. */
import { defineEventHandler, getRouterParam, setResponseHeader, setResponseStatus } from 'h3'
import { NotThere } from '#usecases/problem'
import { copyOfCode } from '#usecases/broadcasts/exchange'
import { contextAt, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const copy = copyOfCode(context, (getRouterParam(event, 'code') ?? '').slice(0, 60))
    setResponseHeader(event, 'content-type', 'application/json; charset=utf-8')
    setResponseHeader(event, 'cache-control', 'no-store')
    setResponseHeader(event, 'x-robots-tag', 'noindex')
    return JSON.stringify(copy)
  }
  catch (error) {
    if (!(error instanceof NotThere)) return troublePage(event, error)
    setResponseStatus(event, 404)
    return { problem: error.message }
  }
})
