/** Passwords, kept only as the output of a memory-hard function (Argon2id, RFC 9106 section 4, second recommended option). */

/** 64 MiB, three passes: the recommendation for environments without much memory. */
const COST = { memoryCost: 65_536, timeCost: 3, parallelism: 4 }

/** Read in with the first password: the engine never sees one. */
const library = () => import('@node-rs/argon2')

export const hashPassword = async (password: string): Promise<string> => (await library()).hash(password, COST)

export const isPassword = async (hashed: string, password: string): Promise<boolean> => (await library()).verify(hashed, password)
