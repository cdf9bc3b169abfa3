/** The colours of what is sent, as the tokens have them; what has none of its own is in second ink. */
import { kindOf, type SendKindName } from '#core/sending/kinds'

export function colourOfSend(name: SendKindName): string {
  const { colour } = kindOf(name).sign
  return colour === null ? 'var(--p-porch-ink-second)' : `var(--p-send-${colour})`
}
