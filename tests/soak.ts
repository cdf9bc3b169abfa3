/** How much of a thing a test does: enough in the run, and the full numbers in `npm run soak`. */
export const SOAK = process.env.PORCH_SOAK === '1'

export const sized = (inTheRun: number, soaking: number): number => SOAK ? soaking : inTheRun
