import { MOST_PICTURE_BYTES } from '#core/page/picture'
import { handle } from '#server/http'
import { fileQuery } from '#server/pageSchemas'
import { bringPicture } from '#usecases/arrive/pictures'

export default handle({ upload: MOST_PICTURE_BYTES, query: fileQuery }, ({ context, bytes, query: { name } }) => bringPicture(context, name, bytes))
