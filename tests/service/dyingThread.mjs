/** A thread for emails that ends by the first one to somebody of that name. */
export const ready = () => undefined
export function handOver({ mail }) {
  if (mail.to.address.startsWith('dies')) process.exit(1)
  return { answer: { kind: 'accepted' }, takesUtf8: null }
}
export const close = () => undefined
