import { handle } from '#server/http'
import { uploadQuery } from '#server/importSchemas'
import { keepImport } from '#server/files/index'
import { importView } from '#usecases/know/importFile'

/** Room for 500,000 rows with a dozen columns. */
const MOST_BYTES = 100_000_000

export default handle({ upload: MOST_BYTES, query: uploadQuery }, async ({ house, bytes, query: { name, encoding, delimiter } }) =>
  importView(house, await keepImport(house, { fileName: name, bytes, encoding, delimiter })))
