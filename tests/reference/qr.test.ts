/** QR codes (ISO/IEC 18004) are read back by a package of another author. */
import jsQR from 'jsqr'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { qrPng, qrSvg } from '../../app/words/qr'

/** Drawn 900 pixels wide, and read like a photograph. */
async function readBack(file: Uint8Array): Promise<string | undefined> {
  const { data, info } = await sharp(file).resize(900, 900, { kernel: 'nearest' }).flatten({ background: '#fff' }).ensureAlpha().raw()
    .toBuffer({ resolveWithObject: true })
  return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data
}

describe('the code of an address', () => {
  it.each([
    'https://porch.example.com/p/sheet-kit', 'https://porch.example.com/p/sheet-kit?from=workshop-flyer',
    'http://localhost:3000/practice/s/long-stitch-journals', 'https://example.com/grüße/紙?a=1&b=2#c',
    `https://example.com/${'long/'.repeat(60)}`,
  ])('%s', async (url) => {
    expect([await readBack(Buffer.from(await qrSvg(url))), await readBack(await qrPng(url))]).toEqual([url, url])
  })

  it('has the quiet zone of four modules that readers need', async () => {
    const { data, info } = await sharp(Buffer.from(await qrSvg('https://example.com/'))).raw().toBuffer({ resolveWithObject: true })
    const [, side] = /viewBox="0 0 (\d+) /.exec(await qrSvg('https://example.com/'))!
    const dark = (x: number, y: number) => data[(Math.floor(y) * info.width + Math.floor(x)) * info.channels]! < 128
    const module = info.width / Number(side)
    expect([dark(module * 3.5, module * 3.5), dark(module * 4.5, module * 4.5)]).toEqual([false, true])
  })

  it('is refused where an address is longer than any code holds', async () => {
    await expect(qrSvg(`https://example.com/${'x'.repeat(3000)}`)).rejects.toThrow()
  })
})
