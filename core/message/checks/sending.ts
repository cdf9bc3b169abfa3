/** What goes with every email: who it is from, its last lines, its weight. */
import { MOST_BYTES, wrong, type Check } from './check'

/** Asked of the domain of its sender. */
export const sender: Check = {
  name: 'Sender',
  isFor: ({ from }) => from !== null,
  detail: (_, { from }) => from?.address ?? '',
  find: (_, { from }) => (from?.troubles ?? []).map(({ says, todo }) => wrong(says, todo)),
}

export const footer: Check = {
  name: 'Unsubscribe link and address',
  detail: () => 'at its end',
  find: (_, { hasPostalAddress }) => hasPostalAddress
    ? []
    : [wrong('Your postal address is missing', 'Every email must show it. Fill it in under Settings.')],
}

export const weight: Check = {
  name: 'Weight',
  detail: (_, { bytes }) => bytes === null ? '' : `${Math.ceil(bytes / 1024)} of ${MOST_BYTES / 1024} kB`,
  find: (_, { bytes }) => bytes !== null && bytes > MOST_BYTES
    ? [wrong('It is too large',
        `Some mail programs cut it after ${MOST_BYTES / 1024} kB, the unsubscribe link too. Shorten it, or link to the rest.`)]
    : [],
}
