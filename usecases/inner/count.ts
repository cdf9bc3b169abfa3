/** `1,204 people`: a number with the word that fits it. */
export const count = (n: number, one: string, many: string): string => `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`
