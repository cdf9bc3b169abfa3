/** What an installation keeps beside its databases: its keys and the owner's password, each in a file only the owner can read. */
import { randomBytes } from 'node:crypto'
import { existsSync, linkSync, mkdirSync, readFileSync, renameSync, unlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { hashPassword, isPassword } from '#adapters/password'

export interface Keys {
  /** Seals session cookies. */
  session: string
  /** Signs the addresses in emails: if it were lost, links already sent would stop working. */
  signing: Buffer
}

/** The keys in this folder, made once, whichever of our processes comes first. */
export function keysIn(folder: string): Keys {
  const file = join(folder, 'keys.json')
  if (!existsSync(file)) {
    const key = () => randomBytes(32).toString('base64url')
    writeSecretOnce(file, JSON.stringify({ session: key(), signing: key() }))
  }
  const { session, signing } = JSON.parse(readFileSync(file, 'utf8')) as Record<'session' | 'signing', string>
  return { session, signing: Buffer.from(signing, 'base64url') }
}

/** The owner's password: from the environment where given, else from the file that the first sign-in makes. */
export class Owner {
  readonly #file: string
  #fromEnvironment: Promise<string> | null

  constructor(folder: string, passwordOfEnvironment: string | null) {
    this.#file = join(folder, 'owner.json')
    this.#fromEnvironment = passwordOfEnvironment === null ? null : hashPassword(passwordOfEnvironment)
  }

  hasPassword(): boolean {
    return this.#fromEnvironment !== null || existsSync(this.#file)
  }

  /** Only once: a password that is set is never set again from a screen without signing in. */
  async choosePassword(password: string): Promise<void> {
    if (this.hasPassword()) throw new Error('There is a password already')
    writeSecret(this.#file, JSON.stringify({ password: await hashPassword(password) }))
  }

  async isPassword(password: string): Promise<boolean> {
    const hashed = this.#fromEnvironment
      ? await this.#fromEnvironment
      : (JSON.parse(readFileSync(this.#file, 'utf8')) as { password: string }).password
    return isPassword(hashed, password)
  }
}

/** Written whole or not at all. */
function writeSecret(file: string, text: string): void {
  renameSync(written(file, text), file)
}

/** The same, but what another process has written meanwhile stays. */
function writeSecretOnce(file: string, text: string): void {
  const ours = written(file, text)
  try {
    linkSync(ours, file)
  }
  catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
  }
  finally {
    unlinkSync(ours)
  }
}

/** Beside where it is to stand, under a name that no other process uses. */
function written(file: string, text: string): string {
  mkdirSync(join(file, '..'), { recursive: true })
  const ours = `${file}.${process.pid}-${randomBytes(4).toString('hex')}`
  writeFileSync(ours, text, { mode: 0o600 })
  return ours
}
