/** The data folder and what lies in it: for its owner's eyes only. */
import { chmodSync, closeSync, existsSync, mkdirSync, openSync, statSync } from 'node:fs'

/** Set on folders that everybody may write into, like /tmp (inode(7), S_ISVTX): those are nobody's to close. */
const STICKY = 0o1000

/** Makes the folder if there is none; what was made with looser rights is closed to others. */
export function privateFolder(folder: string): void {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  close(folder, 0o700)
}

/** The same for a database and what SQLite keeps beside it, which gets the rights of the file itself. */
export function privateDatabase(file: string): void {
  // One that is there is not opened: closing it again would let go of the locks that this process has on it.
  if (!existsSync(file)) closeSync(openSync(file, 'a', 0o600))
  for (const one of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(one)) close(one, 0o600)
}

function close(path: string, mode: number): void {
  const now = statSync(path)
  // Whoever is not its owner cannot change it, and need not: its owner can.
  if ((now.mode & 0o077) === 0 || now.mode & STICKY || (process.getuid && now.uid !== process.getuid())) return
  chmodSync(path, now.mode & mode)
}
