/** Questions for a thread that go wrong in every way. */
export const ready = () => {}
export const echo = words => words
export const spin = () => {
  for (;;);
}
export const fill = () => {
  const kept = []
  for (;;) kept.push(new Array(100_000).fill(kept.length))
}
export const wrong = () => {
  throw new Error('it is wrong')
}
