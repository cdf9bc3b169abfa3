/**
 * Folders of the tests, removed when their test has ended, or their file for those made outside of one. The files of a
 * worker share their modules, so what is to happen after every test is said in tests/setUp.ts, which is run for each file.
 */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, beforeEach } from 'vitest'

const ofFile: string[] = []
const ofTest: string[] = []
let isInTest = false

export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'porch-test-'))
  ;(isInTest ? ofTest : ofFile).push(folder)
  return folder
}

function remove(folders: string[]) {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true })
}

export function removeTemporaryFolders() {
  beforeEach(() => {
    isInTest = true
  })
  afterEach(() => {
    isInTest = false
    remove(ofTest)
  })
  afterAll(() => remove(ofFile))
}
