/** Troubles at the start that are told in one sentence and not as a fault of the program. */
import { SchemaProblem } from '#data/migrate'
import { SettingProblem } from './settings'

export function isPlainProblem(error: unknown): error is Error {
  return error instanceof SchemaProblem || error instanceof SettingProblem
}

export { databaseTrouble } from '#data/connection'
