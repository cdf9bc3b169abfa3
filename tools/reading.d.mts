export const LEAST_EASE: number
export const LEAST_WORDS: number
export function easeOf(texts: readonly string[]): { words: number, ease: number }
export function easeOfScreens(): { screen: string, words: number, ease: number }[]
export function tooHard(screens: { screen: string, words: number, ease: number }[]): { screen: string }[]
