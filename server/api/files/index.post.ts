import { MOST_FILE_BYTES } from '#core/page/promise'
import { handle } from '#server/http'
import { fileQuery } from '#server/pageSchemas'
import { bringFile } from '#usecases/arrive/files'

export default handle({ upload: MOST_FILE_BYTES, query: fileQuery }, ({ context, bytes, query: { name, type } }) => bringFile(context, name, type, bytes))
