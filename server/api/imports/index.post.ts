import { handle } from '#server/http'
import { uploadQuery } from '#server/importSchemas'
import { keepImport } from '#server/files/index'
import { importView } from '#usecases/know/importFile'

/** Room for 500,000 rows with a dozen columns. */
const MOST_BYTES = 100_000_000

export default handle({ upload: MOST_BYTES, query: uploadQuery }, async ({ context, bytes, query: { name, encoding, delimiter } }) =>
  importView(context, await keepImport(context, { fileName: name, bytes, encoding, delimiter })))
