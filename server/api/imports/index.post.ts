import { handle } from '#server/http'
import { uploadQuery } from '#server/importSchemas'
import { importView, receiveImport } from '#usecases/know/importFile'

/** Room for 500,000 rows with a dozen columns. */
const MOST_BYTES = 100_000_000

export default handle({ upload: MOST_BYTES, query: uploadQuery }, async ({ house, bytes, query: { name, encoding, delimiter } }) =>
  importView(house, await receiveImport(house, { fileName: name, bytes, encoding, delimiter })))
