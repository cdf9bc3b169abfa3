/** Pictures of pages: kept in the few sizes that pages show. */

/** Widths in pixels; a picture is never made larger than it came. */
export const PICTURE_WIDTHS = [480, 960, 1720] as const

export const MOST_PICTURE_BYTES = 10_000_000

/** Twice what an email is wide, for screens with small pixels. */
export const MAIL_WIDTH = 1200

/** What a picture may be; a file that is not what it says is refused. */
export const PICTURE_TYPES = ['png', 'jpeg', 'webp', 'gif'] as const

/** Pixels of a picture for where an address is shared. */
export const SHARE_SIZE = { width: 1200, height: 630 } as const

export interface PictureView {
  id: number
  name: string
  /** Of the largest size kept. */
  width: number
  height: number
  /** Widths it is kept in, from the smallest. */
  widths: number[]
}

const ENDINGS = { share: 'share.jpg', mail: 'mail' } as const

/** Path of a picture in a width, as it is shared, or as mail programs can show it. */
export const picturePath = (id: number, size: number | 'share' | 'mail'): string =>
  `/i/${id}-${typeof size === 'number' ? `${size}.webp` : ENDINGS[size]}`
