/** What an installation keeps beside its databases: its keys and the owner's password, each in a file only the owner can read. */
import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, linkSync, readFileSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { hashPassword, isPassword } from '#adapters/password'
import { privateFolder } from './private'

export interface Keys {
  /** Makes out of the owner's password what sessions are tied to. */
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

/** Takes as long whatever is different. */
export const isSameSecret = (a: string, b: string): boolean => timingSafeEqual(
  createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest()
)

/** Without letters and digits that look alike; 50 bits. */
const CODE_LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'
const CODE_LENGTH = 10

/** The owner's password: from the environment where given, else from the file that the first visit makes. */
export class Owner {
  readonly #file: string
  readonly #codeFile: string
  readonly #fromEnvironment: { password: string, hashed: Promise<string> } | null

  constructor(folder: string, passwordOfEnvironment: string | null) {
    this.#file = join(folder, 'owner.json')
    this.#codeFile = join(folder, 'first-code')
    this.#fromEnvironment = passwordOfEnvironment === null ? null : {
      password: passwordOfEnvironment, hashed: hashPassword(passwordOfEnvironment),
    }
  }

  hasPassword(): boolean {
    return this.#fromEnvironment !== null || existsSync(this.#file)
  }

  get isFromEnvironment(): boolean {
    return this.#fromEnvironment !== null
  }

  /** What the first password asks for where others can reach us; the same until it is used. */
  firstCode(): string {
    if (!existsSync(this.#codeFile)) {
      writeSecretOnce(this.#codeFile, [...randomBytes(CODE_LENGTH)].map(byte => CODE_LETTERS[byte % CODE_LETTERS.length]).join(''))
    }
    return readFileSync(this.#codeFile, 'utf8')
  }

  /** False if somebody else was first: a password that is set is never set again without the one before. */
  async choosePassword(password: string): Promise<boolean> {
    const chosen = JSON.stringify({ password: await hashPassword(password) })
    if (this.hasPassword() || !writeSecretOnce(this.#file, chosen)) return false
    rmSync(this.#codeFile, { force: true })
    return true
  }

  async changePassword(password: string): Promise<void> {
    writeSecret(this.#file, JSON.stringify({ password: await hashPassword(password) }))
  }

  async isPassword(password: string): Promise<boolean> {
    return isPassword(this.#fromEnvironment ? await this.#fromEnvironment.hashed : this.#kept(), password)
  }

  /** Stands for the password as it is now, and tells nothing of it to whoever lacks the key; null while there is none. */
  credential(key: string): string | null {
    if (!this.hasPassword()) return null
    return createHmac('sha256', key).update(this.#fromEnvironment?.password ?? this.#kept()).digest('hex')
  }

  #kept(): string {
    return (JSON.parse(readFileSync(this.#file, 'utf8')) as { password: string }).password
  }
}

/** Written whole or not at all. */
function writeSecret(file: string, text: string): void {
  renameSync(written(file, text), file)
}

/** The same, but what somebody else has written meanwhile stays: false then. */
function writeSecretOnce(file: string, text: string): boolean {
  const ours = written(file, text)
  try {
    linkSync(ours, file)
    return true
  }
  catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    return false
  }
  finally {
    unlinkSync(ours)
  }
}

/** Beside where it is to stand, under a name that no other process uses. */
function written(file: string, text: string): string {
  privateFolder(join(file, '..'))
  const ours = `${file}.${process.pid}-${randomBytes(4).toString('hex')}`
  writeFileSync(ours, text, { mode: 0o600 })
  return ours
}
