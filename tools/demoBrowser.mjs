/** A practice workspace made for the purpose, and browsers to look at it with. */
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from './build.mjs'
import { chromium } from './chromium.mjs'
import { install } from './install.mjs'
import { PlainProblem, ROOT } from './say.mjs'

const PORT = process.env.PORT || '3877'
const PASSWORD = 'only for pictures'
const QUIET = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync']
export const DEMO_URL = `http://localhost:${PORT}`

/** Runs `work` while the demo does, on data of its own that is removed afterwards. */
export async function withDemo(work) {
  await install()
  await chromium()
  await build()
  const data = mkdtempSync(join(tmpdir(), 'porch-looked-at-'))
  const demo = spawn(process.execPath, ['tools/demo.mjs'], {
    cwd: ROOT, env: { ...process.env, PORT, PORCH_DATA: data, PORCH_PASSWORD: PASSWORD }, stdio: 'ignore',
  })
  try {
    await becomesWell()
    await work()
  }
  finally {
    demo.kill('SIGTERM')
    await new Promise(resolve => demo.on('exit', resolve))
    rmSync(data, { recursive: true, force: true })
  }
}

async function becomesWell() {
  for (let tries = 0; tries < 1800; tries++) {
    if (await fetch(`${DEMO_URL}/api/health`).then(answer => answer.ok, () => false)) return
    await new Promise(resolve => setTimeout(resolve, 300))
  }
  throw new PlainProblem('The demo did not start.')
}

/** A browser that has just started: nothing is in its cache. */
export async function launch() {
  const { chromium: browserType } = await import('@playwright/test')
  return browserType.launch({ executablePath: process.env.PORCH_CHROMIUM || '/usr/bin/chromium', args: QUIET })
}

export async function signIn(page) {
  await page.goto(`${DEMO_URL}/sign-in`)
  await page.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('heading', { level: 1, name: /porch/ }).waitFor()
}
