/** Makes a subscriber of practice somebody who reads: how keenly is all that has to be said. */
import { insertInventedReader } from '#data/reading'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { NotNow } from '../problem'

/** `keenness` is 0 to 100: how likely they open, click and stay. Only in practice: live readers are real. */
export function inventReader(house: House, personId: number, keenness: number): void {
  if (house.mode !== 'practice') throw new NotNow('Readers are invented in practice only.')
  write(house, () => insertInventedReader(house.db, personId, keenness))
}
