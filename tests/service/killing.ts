/** Runs the engine child again and again, killing it at every named point and at random moments, until it comes to its end. */
import { type ChildProcess, spawn } from 'node:child_process'
import { join } from 'node:path'
import type { HandOverStage } from '#usecases/context'
import { bundle } from '../../tools/bundle.mjs'

export const POINTS: HandOverStage[] = ['before lease', 'after lease', 'while handing over', 'before marking', 'after marking']

const root = join(import.meta.dirname, '../..')

/** Bundled like the engine that ships. */
export async function buildChild(name = 'engineChild'): Promise<string> {
  const outdir = join(root, 'node_modules', '.cache', `children-${process.pid}`)
  await bundle({ root, outdir, entryPoints: { [name]: join(import.meta.dirname, `${name}.ts`), smtp: 'adapters/smtpThread.ts' } })
  return join(outdir, `${name}.mjs`)
}

export interface Plan {
  file: string
  env: Record<string, string>
  /** Other points, besides those of an email's way out; the most of what is done between two of them. */
  besides?: Record<string, number>
  /** Kills at each named point, and at moments nobody chose; fewer where the engine comes to its end before that. */
  perPoint: number
  atRandom: number
  /** How long after a child has begun its work a random moment can be at the latest; half a second. */
  withinMs?: number
  /** 0 up to 1. */
  dice: () => number
  /** Called every now and then while a child runs. */
  meanwhile?: () => void
}

/** Resolves with the number of kills per point once a child has come to its end by itself, and with how long that one has worked. */
export async function runAndKill(plan: Plan): Promise<{ kills: Record<string, number>, workedMs: number }> {
  const besides = Object.keys(plan.besides ?? {})
  const kills: Record<string, number> = Object.fromEntries([...POINTS, ...besides, 'a random moment'].map(point => [point, 0]))
  const mixed = [
    ...POINTS.flatMap(point => Array<string>(plan.perPoint).fill(point)), ...Array<string>(plan.atRandom).fill('a random moment'),
  ]
    .map(point => ({ point, order: plan.dice() })).sort((a, b) => a.order - b.order).map(({ point }) => point)
  // Those come before any email is on its way out.
  const todo = [...besides.flatMap(point => Array<string>(plan.perPoint).fill(point)), ...mixed]
  const alive = setInterval(() => plan.meanwhile?.(), 40)
  try {
    for (;;) {
      const point = todo.shift() ?? 'nothing'
      const most = plan.besides?.[point] ?? (point === 'before lease' || point === 'after lease' ? 3 : 40)
      const nth = 1 + Math.floor(plan.dice() * most)
      const child = spawn(process.execPath, [
        plan.file,
      ], { cwd: root, env: { ...process.env, ...plan.env, KILL_AT: point, KILL_NTH: String(nth) }, stdio: ['ignore', 'pipe', 'inherit'] })
      const afterMs = plan.dice() * (plan.withinMs ?? 500)
      let timer: ReturnType<typeof setTimeout> | undefined
      let began = 0
      // Counted from its first word: how long a process takes to start depends on the machine.
      child.stdout.once('data', () => {
        began = performance.now()
        if (point === 'a random moment') timer = setTimeout(() => child.kill('SIGKILL'), afterMs)
      })
      const { code, signal } = await end(child)
      clearTimeout(timer)
      if (signal === 'SIGKILL') kills[point]!++
      else if (code !== 0) throw new Error(`The engine child failed with ${code ?? signal}`)
      else return { kills, workedMs: performance.now() - began }
    }
  }
  finally {
    clearInterval(alive)
  }
}

function end(child: ChildProcess): Promise<{ code: number | null, signal: NodeJS.Signals | null }> {
  return new Promise(resolve => child.on('exit', (code, signal) => resolve({ code, signal })))
}

export const sayKills = (kills: Record<string, number>) => Object.entries(kills).map(([point, n]) => `${point}: ${n}`).join(', ')
