/** An SMTP thread that dies when it gets an email to `dies…`. */
export const ready = () => undefined
export function handOver({ mail }) {
  if (mail.to.address.startsWith('dies')) process.exit(1)
  return { answer: { kind: 'accepted' }, takesUtf8: null }
}
export const close = () => undefined
