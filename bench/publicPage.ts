/** How quickly the built application answers with a public page, a hundred times a second, while its engine works for many people. */
import { spawn } from 'node:child_process'
import { closeSync, copyFileSync, fsyncSync, mkdtempSync, openSync, rmSync } from 'node:fs'
import { Agent, get } from 'node:http'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { doToMany, stopTask } from '#usecases/know/doToMany'
import { benchContext } from './context'
import { ms, percentile } from './measure'

const PER_SECOND = 100
/** As long as the engine has to do. */
const SECONDS = 10
/** A machine that others use, too, is quiet in some of them. */
const TURNS = 3
const PATIENCE_MS = 60_000

const freePort = () => new Promise<number>((resolve) => {
  const probe = createServer().listen(0, '127.0.0.1', () => {
    const { port } = probe.address() as AddressInfo
    probe.close(() => resolve(port))
  })
})

/** Milliseconds from when the request was to be made, so that a server that holds up the next ones is not flattered. */
function ask(agent: Agent, port: number, path: string, dueAt: number): Promise<number> {
  return new Promise((resolve, reject) => {
    get({
      agent, port, host: '127.0.0.1', path, headers: { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0' },
    }, (answer) => {
      answer.resume()
      answer.on('end', () => answer.statusCode === 200
        ? resolve(performance.now() - dueAt)
        : reject(new Error(`${path} was answered with ${answer.statusCode}`)))
    }).on('error', reject)
  })
}

/** How long each page took, asked for at an even pace whether or not the ones before were answered. */
async function askSteadily(agent: Agent, port: number): Promise<number[]> {
  const begin = performance.now()
  const answers: Promise<number>[] = []
  for (let n = 0; n < PER_SECOND * SECONDS; n++) {
    const dueAt = begin + n * 1000 / PER_SECOND
    await new Promise(resolve => setTimeout(resolve, Math.max(0, dueAt - performance.now())))
    answers.push(ask(agent, port, '/practice/p/kit', dueAt))
  }
  return Promise.all(answers)
}

const said = (times: number[]) =>
  `half under ${ms(percentile(times, 0.5))} ms, 99 of 100 under ${ms(percentile(times, 0.99))} ms, slowest ${ms(Math.max(...times))} ms`

/** `file`: a practice workspace; it is copied. */
export async function measurePublicPage(file: string, root: string): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'porch-page-'))
  const copy = join(folder, 'practice.db')
  copyFileSync(file, copy)
  // Else the copy is still on its way to the disk while the pages are measured.
  const written = openSync(copy, 'r+')
  fsyncSync(written)
  closeSync(written)
  const port = await freePort()
  const porch = spawn(process.execPath, ['tools/start.mjs'], { cwd: root, stdio: 'ignore', env: {
    ...process.env, NODE_ENV: 'production', PORT: String(port), PORCH_DATA: folder, PORCH_PASSWORD: 'a password of the bench',
    PORCH_LOG: 'error', PORCH_SMTP_URL: '',
  } })
  // Each connection in turn: one that rests for long is closed by the server, perhaps at the moment it is used again.
  const agent = new Agent({ keepAlive: true, maxSockets: 64, scheduling: 'fifo' })
  try {
    const deadline = performance.now() + PATIENCE_MS
    while (!await ask(agent, port, '/api/health', performance.now()).catch(() => null)) {
      if (performance.now() > deadline) throw new Error('The application did not start within a minute')
      await new Promise(resolve => setTimeout(resolve, 100))
    }
    const context = benchContext(copy)
    const people = context.db.prepare<[], number>('SELECT count(*) FROM people WHERE gone IS NULL').pluck().get()!
    const lines: string[] = []
    for (let turn = 1; turn <= TURNS; turn++) {
      const atRest = await askSteadily(agent, port)
      const tagId = Number(context.db.prepare('INSERT INTO tags (name, created_at) VALUES (?, 0)').run(`shown ${turn}`).lastInsertRowid)
      const id = doToMany(context, { kind: 'all', search: '', narrowing: NOT_NARROWED }, { kind: 'give-tag', tagId }, people)
      const times = await askSteadily(agent, port)
      stopTask(context, id)
      const given = context.db.prepare<[number], number>('SELECT count(*) FROM tag_holdings WHERE tag_id = ?').pluck().get(tagId)!
      lines.push(
        `Turn ${turn}: ${times.length.toLocaleString('en-GB')} pages, ${PER_SECOND} a second, while the engine gave a tag to `
        + `${given.toLocaleString('en-GB')} people: ${said(times)} (promised: 99 of 100 under 15). At rest: ${said(atRest)}.`,
      )
    }
    context.db.close()
    return lines
  }
  finally {
    agent.destroy()
    porch.kill('SIGTERM')
    await new Promise(resolve => porch.on('exit', resolve))
    rmSync(folder, { recursive: true, force: true })
  }
}
