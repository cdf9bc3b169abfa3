import type { BuildResult } from 'esbuild'

export declare function bundle(of: {
  root: string, entryPoints: Record<string, string>, outdir: string, sourcemap?: boolean, mjml?: string,
}): Promise<BuildResult>
