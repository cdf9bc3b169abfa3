/** A thread that takes its time to start, as each does on a slow machine. */
Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 700)

export { echo, ready } from './threads.mjs'
