/** The number that this page's styles carry; the server writes it anew for every page. */
export function styleNonce(): string | undefined {
  return document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content
}
