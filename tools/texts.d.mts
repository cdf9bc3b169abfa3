export interface FoundText { file: string, line: number, text: string }
export function textsOf(file: string): FoundText[]
export function allTexts(): FoundText[]
