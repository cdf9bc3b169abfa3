export const LAYERS: readonly string[]
export function imports(): Promise<{ modules: string[], edges: [from: string, to: string][], circles: string[] }>
export function layerOf(module: string): string | null
