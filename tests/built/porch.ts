/** The built application, started as its owner would, on a data folder and port of its own. */
import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const ROOT = join(import.meta.dirname, '../..')
export const PASSWORD = 'a password for tests'
/** Only stops what hangs: on a busy machine, starting can take a minute. */
const PATIENCE_MS = 180_000

export async function freePort(): Promise<number> {
  const probe = createServer()
  await new Promise<void>(resolve => probe.listen(0, resolve))
  const { port } = probe.address() as AddressInfo
  await new Promise<void>(resolve => probe.close(() => resolve()))
  return port
}

/** Waits for something to become true. */
export async function until<Value>(
  ask: () => Promise<Value | undefined | false | null>, what: string, patienceMs = PATIENCE_MS,
): Promise<Value> {
  const deadline = Date.now() + patienceMs
  while (Date.now() < deadline) {
    const value = await ask()
    if (value) return value
    await new Promise(resolve => setTimeout(resolve, 50))
  }
  throw new Error(`Waited in vain for ${what}`)
}

export class Porch {
  cookie = ''
  mode: 'practice' | 'live' = 'practice'
  said = ''
  private constructor(readonly port: number, readonly data: string, readonly supervisor: ChildProcess) {
    for (const stream of [supervisor.stdout!, supervisor.stderr!]) stream.on('data', chunk => this.said += chunk)
  }

  get url(): string {
    return `http://localhost:${this.port}`
  }

  /** `env` may take the password away with an empty string. */
  static async start(env: Record<string, string> = {}, data = mkdtempSync(join(tmpdir(), 'porch-built-'))): Promise<Porch> {
    const port = Number(env.PORT) || await freePort()
    const supervisor = spawn(process.execPath, ['tools/start.mjs'], {
      cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env, NODE_ENV: 'production', PORCH_PASSWORD: PASSWORD, PORCH_LOG: 'warn', PORCH_SMTP_URL: '', ...env, PORT: String(port),
        PORCH_DATA: data,
      },
    })
    return new Porch(port, data, supervisor)
  }

  async ready(): Promise<this> {
    await until(() => fetch(`${this.url}/api/health`).then(answer => answer.ok, () => false), `a well application; it said: ${this.said}`)
    return this
  }

  exited(): Promise<number | null> {
    return this.supervisor.exitCode !== null
      ? Promise.resolve(this.supervisor.exitCode)
      : new Promise(resolve => this.supervisor.on('exit', resolve))
  }

  async stop({ keepData = false } = {}): Promise<void> {
    this.supervisor.kill('SIGTERM')
    await this.exited()
    if (!keepData) rmSync(this.data, { recursive: true, force: true })
  }

  /** Process ids of the web server and the engine. */
  children(): number[] {
    const { pid } = this.supervisor
    return readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number)
  }

  fetch(path: string, options: RequestInit & { headers?: Record<string, string> } = {}): Promise<Response> {
    return fetch(this.url + path, { redirect: 'manual', ...options })
  }

  async signIn(password = PASSWORD): Promise<Response> {
    const answer = await this.fetch('/api/session', {
      method: 'POST', headers: { 'origin': this.url, 'content-type': 'application/json' }, body: JSON.stringify({ password }),
    })
    this.cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? this.cookie
    return answer
  }

  /** A request as the application's own screens send it. */
  api(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
    return this.fetch(`/api/${path}`, {
      method, headers: {
        'cookie': this.cookie, 'origin': this.url, 'porch-workspace': this.mode,
        ...(body !== undefined && { 'content-type': 'application/json' }), ...headers,
      },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
  }

  async do<Answer>(method: string, path: string, body?: unknown): Promise<Answer> {
    const answer = await this.api(method, path, body)
    // Of some operations nothing is answered.
    const text = await answer.text()
    const said = (text === '' ? null : JSON.parse(text)) as Answer
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${JSON.stringify(said)}`)
    return said
  }

  /** Brings a file, as the application's own screens send it. */
  upload(path: string, bytes: Uint8Array): Promise<Response> {
    return this.fetch(`/api/${path}`, {
      method: 'POST', headers: { 'cookie': this.cookie, 'origin': this.url, 'porch-workspace': this.mode }, body: bytes as BodyInit,
    })
  }

  /** Presses the button of a public page. */
  optIn(slug: string, fields: Record<string, string>, headers: Record<string, string> = {}): Promise<Response> {
    return this.fetch(
      `${this.mode === 'practice' ? '/practice' : ''}/p/${slug}`, { method: 'POST', headers, body: new URLSearchParams(fields) },
    )
  }
}
