export function phrasesIn(text: string): { phrase: string, better: string }[]
