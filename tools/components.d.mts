export const NATIVE: string
export function faultsOfComponents(project: string, scratch: string): Promise<string[]>
