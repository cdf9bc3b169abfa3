/** QR codes of addresses, as files: made by a package, read back by another in the tests. */
import { toDataURL, toString } from 'qrcode'

/** Medium error correction and four modules of quiet zone around it (ISO/IEC 18004), so that print forgives. */
const SHAPE = { errorCorrectionLevel: 'M', margin: 4 } as const

export const qrSvg = (url: string): Promise<string> => toString(url, { ...SHAPE, type: 'svg' })

/** The bytes of a PNG about so many pixels a side. */
export async function qrPng(url: string, side = 1024): Promise<Uint8Array<ArrayBuffer>> {
  const data = await toDataURL(url, { ...SHAPE, type: 'image/png', width: side })
  return Uint8Array.from(atob(data.slice(data.indexOf(',') + 1)), letter => letter.charCodeAt(0))
}
