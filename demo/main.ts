/** Makes the practice workspace: sixty days of Saltmarsh Bindery, played by the real engine loop. */
import { existsSync, renameSync, rmSync } from 'node:fs'
import { sayDay } from '#core/time/say'
import { DAY, MINUTE } from '#core/time/zone'
import { keysIn } from '#runtime/keys'
import { closeWhole, databaseFile, engineHouseOn, openAndMigrate, systemClock } from '#runtime/open'
import { isPlainProblem } from '#runtime/problems'
import { readSettings, SettingProblem } from '#runtime/settings'
import { engineAnswers, socketPath } from '#runtime/wake'
import { optIn } from '#usecases/arrive/optIn'
import { countVisits } from '#usecases/arrive/visits'
import type { EngineHouse } from '#usecases/house'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { inventReader } from '#usecases/practice/inventReader'
import { foundWorkspace } from '#usecases/settings/workspace'
import { moveClock } from '#usecases/time/moveClock'
import { play } from '#usecases/time/play'
import { publishedPage } from '#usecases/views/publicPages'
import { BINDERY, furnish, spendings } from './bindery'
import { fairGuests, oldNotebook } from './fair'
import { visitorsBetween } from './visitors'

const DAYS = 60
const PEOPLE = 400

async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const file = databaseFile(settings, 'practice')
  const fresh = process.argv.includes('--fresh')
  if (existsSync(file) && !fresh) return
  if (await engineAnswers(socketPath(settings.data))) throw new SettingProblem('The application runs on this data folder; stop it before the practice workspace is made anew.')

  process.stdout.write('Making the practice workspace: sixty days of Saltmarsh Bindery are played through.\n')
  const building = `${file}.new`
  removeDatabase(building)
  const db = openAndMigrate(building)
  const end = Math.floor(systemClock.now() / MINUTE) * MINUTE
  const begin = end - DAYS * DAY
  foundWorkspace(db, { mode: 'practice', key: 'saltmarsh', ...BINDERY, at: begin })
  const house: EngineHouse = { ...engineHouseOn(db, settings, keysIn(settings.data), 'demo', async (headers, body) => mustBeTaken(receiveWebhook(house, headers, body))), stage() {} }
  const moveTo = async (at: number) => {
    moveClock(house, { by: 'to', at })
    await play(house, at)
  }
  const marks = await furnish(house)
  await oldNotebook(house)
  let told = 0
  let fair = false
  for (const visitor of visitorsBetween(begin, end, PEOPLE)) {
    await moveTo(visitor.at)
    if (!fair && visitor.at > begin + 20 * DAY) {
      fair = true
      await fairGuests(house, marks)
    }
    const { touch } = visitor
    countVisits(house, [{ shown: { kind: 'page', id: publishedPage(house, visitor.slug).id }, touch, at: visitor.at, visits: 1 + visitor.lookers }])
    const { personId } = optIn(house, { slug: visitor.slug, email: visitor.address, firstName: visitor.firstName, answers: visitor.answers, zone: visitor.zone, ip: null, touch })
    inventReader(house, personId, visitor.keenness)
    const day = Math.floor((visitor.at - begin) / DAY)
    if (day >= told + 10) {
      told = day - day % 10
      process.stdout.write(`  ${sayDay(visitor.at, BINDERY.zone, true)}\n`)
    }
  }
  await moveTo(end)
  spendings(house, begin)
  closeWhole(db)
  removeDatabase(file)
  renameSync(building, file)
  process.stdout.write('Made.\n')
}

function removeDatabase(path: string): void {
  for (const end of ['', '-wal', '-shm']) rmSync(path + end, { force: true })
}

main().catch((error: unknown) => {
  process.stderr.write(`${isPlainProblem(error) ? error.message : error instanceof Error ? error.stack : String(error)}\n`)
  process.exitCode = 1
})
