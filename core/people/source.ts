/** Where someone came from, as it is kept and in words. */

/**
 * `page:sheet-kit` as `the page /p/sheet-kit`, `import:spring fair` as `the import “spring fair”`, `offer:paper-sampler` as `the offer
 * /s/paper-sampler`.
 */
export function saySource(source: string): string {
  const [kind, name] = source.split(/:(.*)/)
  if (source === 'api') return 'one of your programs'
  if (kind === 'hook') return `the webhook “${name}”`
  if (kind === 'offer') return `the offer /s/${name}`
  return kind === 'page' ? `the page /p/${name}` : kind === 'import' ? `the import “${name}”` : source
}
