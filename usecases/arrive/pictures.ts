/** Pictures for pages. */
import { MOST_PICTURE_BYTES, type PictureView } from '#core/page/picture'
import { contentOfPicture, insertPicture, keepMailPicture, picturesByIds } from '#data/pictures'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere } from '../problem'

/** Keeps a picture in the sizes that are shown. Throws an {@link InputProblem} for what is no picture, whatever it calls itself. */
export async function bringPicture(context: WorkspaceContext, name: string, bytes: Uint8Array): Promise<PictureView> {
  const refuse = (problem: string) => new InputProblem([{ field: 'picture', problem }])
  if (bytes.length > MOST_PICTURE_BYTES) {
    throw refuse(`This picture is larger than ${MOST_PICTURE_BYTES / 1_000_000} MB. Save it smaller and add it again.`)
  }
  const made = await context.pictures.make(bytes)
  if (!made) throw refuse('This picture cannot be read. Use a complete PNG, JPEG, WebP or GIF.')
  const { db } = context
  return transact(context, () =>
    picturesByIds(db, [insertPicture(db, { ...made, name: name.replace(/[\p{C}]+/gu, '').slice(0, 120), at: context.clock.now() })])[0]!)
}

/** As mail programs can show it; made when it is first asked for. */
export async function pictureForMail(context: WorkspaceContext, id: number): Promise<Uint8Array> {
  const { db } = context
  const kept = contentOfPicture(db, id, 'mail')
  if (kept) return kept
  const [picture] = picturesByIds(db, [id])
  if (!picture) throw new NotThere('There is no picture at this address.')
  const made = await context.pictures.forMail(contentOfPicture(db, id, picture.widths.at(-1)!)!)
  transact(context, () => keepMailPicture(db, id, made))
  return made
}

/** One size of a picture, ready to be sent. */
export function pictureContent(context: WorkspaceContext, id: number, size: number | 'share'): Uint8Array {
  const content = contentOfPicture(context.db, id, size)
  if (!content) throw new NotThere('There is no picture at this address.')
  return content
}
