/** What stands around every public page. They all work without JavaScript. */
import { html, type Html } from './html'
import { ourTheme, themeClasses, type PageTheme } from './theme'

/** Where the files of the public pages are; the script tells the visitor's zone and counts down, and is left out where nothing may run. */
export interface PublicFiles { css: string, script: string | null }

/** Whose page it is. */
export interface Face { senderName: string, postalAddress: string, files: PublicFiles }

export interface Shell extends Face {
  title: string
  /** A place for a picture beside the text is only kept where one stands: `apart`. */
  theme?: PageTheme
  apart?: boolean
  robots?: 'noindex'
  /** For search results and for where the address is shared. */
  description?: string
  /** Whole addresses. */
  url?: string
  pictureUrl?: string | null
}

export function shell(parts: Shell, main: Html): string {
  const { title, description, url, pictureUrl } = parts
  const theme = parts.theme ?? ourTheme()
  return `<!doctype html>
${html`<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title>${parts.robots && html`<meta name="robots" content="noindex">`}
${description && html`<meta name="description" content="${description}"><meta property="og:description" content="${description}">`}
${url && html`<meta property="og:title" content="${title}"><meta property="og:type" content="website"><meta property="og:url" content="${url}"><link rel="canonical" href="${url}">`}
${pictureUrl && html`<meta property="og:image" content="${pictureUrl}"><meta name="twitter:card" content="summary_large_image">`}
<link rel="stylesheet" href="${parts.files.css}"></head>
<body class="${themeClasses(parts.apart ? theme : { ...theme, picture: 'inside' })}"><main>${main}</main>
<footer>${parts.senderName}${parts.postalAddress && html`, ${parts.postalAddress.replaceAll('\n', ', ')}`}</footer>
${parts.files.script && html`<script src="${parts.files.script}" defer></script>`}</body></html>`}`
}
