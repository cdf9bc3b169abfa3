/** Whether web, engine and database are well, and which versions run. Open to all: it says nothing about anybody. */
import { defineEventHandler, setResponseStatus } from 'h3'
import { openHouses } from '#server/houses'
import { healthView } from '#usecases/views/health'
import { systemClock } from '#runtime/open'
import { VERSION } from '#runtime/version'

export default defineEventHandler((event) => {
  const health = healthView(openHouses().of('practice'), systemClock.now(), VERSION)
  if (!health.well) setResponseStatus(event, 503)
  return health
})
