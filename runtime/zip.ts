/** Folders as ZIP files, for who may not reach the adapters. */
export { fromZip, toZip, ZipProblem } from '#adapters/zip'
