/**
 * Runs the web server and an engine for each workspace as processes of their own on one data folder.
 * Whichever dies is started again, after waits that grow while it keeps dying.
 */
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { get } from 'node:http'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { ENGINE, WEB } from './build.mjs'
import { PlainProblem, ROOT, say } from './say.mjs'

/** A process that ends with this has said in a sentence why starting again will not help (EX_CONFIG of sysexits.h). */
const WILL_NOT_HELP = 78
const WAITS_MS = [250, 1000, 2000, 5000, 15_000]
/** A process that ran this long was well: the next death starts the waits from the beginning. */
const WELL_AFTER_MS = 60_000
/** How long a process may take to finish what it has under way. */
const DRAIN_MS = 15_000
const READY_MS = 60_000
/** How often it is looked whether a live workspace was made. */
const LOOK_MS = 500

/**
 * Runs until stopped by a signal, or until a process says that starting it
 * again will not help. `onReady` is called once the health check is well.
 */
export async function supervise(env, onReady) {
  const children = [
    new Supervised('web', [WEB], env),
    new Supervised('engine', [ENGINE, 'practice'], env),
  ]
  // Live has an engine of its own, from the moment there is a live workspace: nothing of practice comes before it.
  const live = new Supervised('live engine', [ENGINE, 'live'], env)
  const liveFile = join(resolve(ROOT, env.PORCH_DATA || 'var/porch'), 'live.db')
  const startLive = () => {
    if (children.includes(live) || !existsSync(liveFile)) return
    children.push(live)
    live.start()
  }
  const looking = setInterval(startLive, LOOK_MS)
  let stopping = null
  const stopAll = (code) => {
    clearInterval(looking)
    stopping ??= Promise.all(children.map(child => child.stop())).then(() => code)
    return stopping
  }
  const ended = new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => resolve(stopAll(0)))
    for (const child of [...children, live]) child.onHopeless = () => resolve(stopAll(1))
  })
  for (const child of children) child.start()
  startLive()
  void becomesWell(env, () => stopping !== null).then(well => well && onReady())
  process.exitCode = await ended
}

class Supervised {
  onHopeless = () => {}
  #process = null
  #stopping = false
  #deaths = 0
  #timer = null

  constructor(name, program, env) {
    Object.assign(this, { name, program, env })
  }

  start() {
    const began = Date.now()
    // A group of its own: Ctrl-C reaches us, and we stop the processes in good order.
    const child = this.#process = spawn(process.execPath, ['--enable-source-maps', ...this.program], {
      cwd: ROOT, env: this.env, stdio: ['ignore', 'inherit', 'inherit'], detached: true,
    })
    child.on('exit', (code, signal) => {
      this.#process = null
      if (this.#stopping) return
      if (code === WILL_NOT_HELP) return this.onHopeless()
      if (Date.now() - began > WELL_AFTER_MS) this.#deaths = 0
      const wait = WAITS_MS[Math.min(this.#deaths++, WAITS_MS.length - 1)]
      process.stderr.write(`The ${this.name} process ended (${signal ?? code}); starting it again in ${wait} ms.\n`)
      this.#timer = setTimeout(() => this.start(), wait)
    })
  }

  async stop() {
    this.#stopping = true
    clearTimeout(this.#timer)
    const child = this.#process
    if (!child) return
    await new Promise((resolve) => {
      const last = setTimeout(() => child.kill('SIGKILL'), DRAIN_MS)
      child.on('exit', () => {
        clearTimeout(last)
        resolve()
      })
      child.kill('SIGTERM')
    })
  }
}

/** Settings that the server's own framework reads under names of its own. Nobody elsewhere reaches it unless that is wished for. */
export function listening(env) {
  const PORT = env.PORT || '3000'
  return { ...env, PORT, NITRO_PORT: PORT, NITRO_HOST: env.PORCH_HOST || '127.0.0.1' }
}

/** Ends with a sentence if something else listens there. */
export function checkPort(port, host = '127.0.0.1') {
  // What makes no sense as a port is the application's to say.
  if (!(Number(port) > 0 && Number(port) < 65_536)) return Promise.resolve()
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', error => reject(new PlainProblem(whyNot(error, port, host))))
    probe.listen(Number(port), host, () => probe.close(resolve))
  })
}

function whyNot({ code, message }, port, host) {
  const command = process.argv[1]?.endsWith('demo.mjs') ? 'npm run demo' : 'npm start'
  if (['EADDRNOTAVAIL', 'ENOTFOUND'].includes(code)) {
    return `PORCH_HOST must be a network address of this machine, like 0.0.0.0 for all of them; it is ${host}.`
  }
  if (code !== 'EADDRINUSE') return `Port ${port} cannot be used: ${message}`
  return `Port ${port} is in use by another program. Choose another one, like: PORT=${Number(port) + 1} ${command}`
}

async function becomesWell({ PORT, NITRO_HOST }, givenUp) {
  // Every interface is no place to go to.
  const host = { '0.0.0.0': '127.0.0.1', '::': '::1' }[NITRO_HOST] ?? NITRO_HOST
  const deadline = Date.now() + READY_MS
  while (Date.now() < deadline && !givenUp()) {
    if (await isWell({ host, port: PORT, path: '/api/health' })) return true
    await new Promise(resolve => setTimeout(resolve, 150))
  }
  if (!givenUp()) say('The application is not well after a minute; see the messages above.')
  return false
}

/** Not by `fetch`, which takes longer to be read in than it takes to ask. */
async function isWell(address) {
  try {
    const answer = await new Promise((resolve, reject) => get(address, resolve).on('error', reject))
    answer.resume()
    return answer.statusCode === 200
  }
  catch {
    // not listening yet
    return false
  }
}
