/** QR codes of addresses, as files: made by a package, read back by another in the tests. */
import { toString } from 'qrcode'

/** Medium error correction and four modules of quiet zone around it (ISO/IEC 18004), so that print forgives. */
const SHAPE = { errorCorrectionLevel: 'M', margin: 4 } as const

export const qrSvg = (url: string): Promise<string> => toString(url, { ...SHAPE, type: 'svg' })

/** The same drawn as a PNG of so many pixels a side, by the browser. */
export async function qrPng(url: string, side = 1024): Promise<Blob> {
  const picture = new Image()
  const address = URL.createObjectURL(new Blob([(await qrSvg(url)).replace('<svg ', `<svg width="${side}" height="${side}" `)], { type: 'image/svg+xml' }))
  try {
    await new Promise<void>((loaded, failed) => {
      picture.onload = () => loaded()
      picture.onerror = () => failed(new Error('The code could not be drawn.'))
      picture.src = address
    })
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = side
    const pen = canvas.getContext('2d')!
    pen.imageSmoothingEnabled = false
    pen.drawImage(picture, 0, 0, side, side)
    return await new Promise((made, failed) => canvas.toBlob(blob => blob ? made(blob) : failed(new Error('The code could not be drawn.')), 'image/png'))
  }
  finally {
    URL.revokeObjectURL(address)
  }
}
