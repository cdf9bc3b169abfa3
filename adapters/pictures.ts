/** Pictures are read, checked and made smaller with libvips. */
import { MAIL_WIDTH, PICTURE_TYPES, PICTURE_WIDTHS, SHARE_SIZE } from '#core/page/picture'
import type { PictureMaker } from '#core/ports'

/** More than any camera makes; a small file can claim to be enormous. */
const MOST_PIXELS = 80_000_000

/** Read in with the first picture: most processes never see one, and it takes a tenth of their start. */
const library = async () => (await import('sharp')).default

export function createPictureMaker(): PictureMaker {
  return {
    async make(bytes) {
      const sharp = await library()
      const read = () => sharp(bytes, { animated: true, limitInputPixels: MOST_PIXELS, failOn: 'error' })
      let meta
      try {
        meta = await read().metadata()
        if (!(PICTURE_TYPES as readonly string[]).includes(meta.format ?? '')) return null
        const { width = 0 } = meta.autoOrient ?? meta
        const widths = [...PICTURE_WIDTHS.filter(one => one < width), Math.min(width, PICTURE_WIDTHS.at(-1)!)]
        const sizes = []
        // What a camera wrote beside the picture, like where it was taken, is left behind.
        for (const one of [...new Set(widths)]) {
          sizes.push({ width: one, content: await read().autoOrient().resize({ width: one }).webp({ quality: 80 }).toBuffer() })
        }
        const largest = await sharp(sizes.at(-1)!.content).metadata()
        const share = await sharp(bytes, { limitInputPixels: MOST_PIXELS }).autoOrient().resize({
          ...SHARE_SIZE, fit: 'cover', position: 'attention',
        }).flatten({ background: '#ffffff' }).jpeg({ quality: 82 }).toBuffer()
        return { width: largest.width, height: largest.pageHeight ?? largest.height, sizes, share }
      }
      catch {
        return null
      }
    },
    async forMail(bytes) {
      const sharp = await library()
      const { hasAlpha, pages = 1 } = await sharp(bytes).metadata()
      const small = (width: number) => sharp(bytes, { animated: true }).resize({ width, withoutEnlargement: true })
      if (pages > 1) return small(MAIL_WIDTH / 2).gif().toBuffer()
      return hasAlpha ? small(MAIL_WIDTH).png({ compressionLevel: 9 }).toBuffer() : small(MAIL_WIDTH).jpeg({ quality: 82 }).toBuffer()
    },
    draw: async svg => (await library())(Buffer.from(svg)).png().toBuffer(),
  }
}
