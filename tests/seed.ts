/** Property tests say the same twice: their seed stands here. `npm run soak` draws another each time, and prints it. */
import { configureGlobal } from 'fast-check'

configureGlobal({ seed: Number(process.env.PORCH_SEED ?? 20261129) })
