/** Passwords, kept only as the output of a memory-hard function (Argon2id, RFC 9106 section 4, second recommended option). */
import { hash, verify } from '@node-rs/argon2'

/** 64 MiB, three passes: the recommendation for environments without much memory. */
const COST = { memoryCost: 65_536, timeCost: 3, parallelism: 4 }

export const hashPassword = (password: string): Promise<string> => hash(password, COST)

export async function isPassword(hashed: string, password: string): Promise<boolean> {
  return verify(hashed, password)
}
