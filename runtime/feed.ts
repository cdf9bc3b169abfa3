/** Feeds, for whoever answers a request. */
export { atomOf } from '#adapters/atom'
