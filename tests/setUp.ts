/** What is said once for every file of tests. */
import { configureGlobal } from 'fast-check'
import { removeTemporaryFolders } from './temporary'

// Property tests say the same twice: their seed stands here. `npm run soak` draws another each time, and prints it.
configureGlobal({ seed: Number(process.env.PORCH_SEED ?? 20261129) })

removeTemporaryFolders()
