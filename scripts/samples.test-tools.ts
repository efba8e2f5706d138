import { expect } from 'vitest'

/** Samples are compared by their numbers: by all that an array is besides, a second of them takes as long as what made them. */
expect.addEqualityTesters([
  (a, b) => {
    if (!(a instanceof Float32Array && b instanceof Float32Array)) return undefined
    return a.length === b.length && a.every((x, i) => Object.is(x, b[i]))
  },
])
