/** Whether web, engine and database are well, and which versions run. Open to all: it says nothing about anybody. */
import { defineEventHandler, setResponseStatus } from 'h3'
import { openHouses } from '#server/houses'
import { healthView } from '#usecases/views/health'
import { systemClock } from '#runtime/open'
import { VERSION } from '#runtime/version'

export default defineEventHandler((event) => {
  const houses = openHouses()
  const health = healthView(houses.of('practice'), houses.hasLive ? houses.of('live') : null, systemClock.now(), VERSION)
  if (!health.well) setResponseStatus(event, 503)
  return health
})
