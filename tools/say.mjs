/** What the scripts share: talking to whoever started them, and running other programs. */
import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..')

/** Ends the script with one plain sentence. */
export class PlainProblem extends Error {}

export function say(text) {
  process.stdout.write(`${text}\n`)
}

/** Runs a script's main function and turns a {@link PlainProblem} into its sentence. */
export async function main(work) {
  try {
    await work()
  }
  catch (error) {
    process.stderr.write(`${error instanceof PlainProblem ? error.message : error.stack}\n`)
    process.exitCode = 1
  }
}

/** Runs a program to its end and returns its exit code; its output goes to ours, or nowhere with `quiet`, or to `hear` as it comes. */
export function run(command, args, { env = {}, quiet = false, hear, cwd = ROOT } = {}) {
  const output = hear ? 'pipe' : quiet ? 'ignore' : 'inherit'
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd, stdio: ['ignore', output, output], env: { ...process.env, ...env } })
    if (hear) for (const stream of [child.stdout, child.stderr]) stream.on('data', hear)
    child.on('error', reject)
    // What it wrote last is heard after its end.
    child.on(hear ? 'close' : 'exit', code => resolve(code ?? 1))
  })
}

/** True if a program of this name can be run. */
export async function has(command, args = ['--version']) {
  try {
    return await run(command, args, { quiet: true }) === 0
  }
  catch {
    return false
  }
}

/** A program that a package brought along. */
export const bin = name => join(ROOT, 'node_modules', '.bin', name)

/** One digest over the contents of files and of everything in folders. */
export function digestOf(paths) {
  const hash = createHash('sha256')
  const add = (path) => {
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) add(join(path, name))
    }
    else {
      hash.update(`${path.slice(ROOT.length)}\n`).update(readFileSync(path))
    }
  }
  for (const path of paths) add(join(ROOT, path))
  return hash.digest('hex')
}

/** Calls `tick` with the seconds gone while `work` runs, so that nobody thinks it hangs. */
export async function withProgress(work, everySeconds, tick) {
  const began = Date.now()
  const timer = setInterval(() => tick(Math.round((Date.now() - began) / 1000)), everySeconds * 1000)
  try {
    return await work()
  }
  finally {
    clearInterval(timer)
  }
}
