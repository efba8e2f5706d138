import type { Source } from './decode'

/** Bytes that are read piece by piece, as a file is. */
export const sourceOf = (bytes: Uint8Array): Source => ({
  size: bytes.length,
  read: async (from, length) => bytes.slice(from, from + length),
})
