/**
 * The text of a file. A byte order mark says UTF-8 or UTF-16; without one it is UTF-16 when every other byte of the
 * beginning is zero, UTF-8 when it is valid as that, else Windows-1252, which holds Latin-1 (WHATWG, "Encoding").
 */
export function decodeText(bytes: Uint8Array): string {
  const [a, b] = bytes
  const as = (label: string) => new TextDecoder(label).decode(bytes)
  if (a === 0xff && b === 0xfe) return as('utf-16le')
  if (a === 0xfe && b === 0xff) return as('utf-16be')
  const zeros = [0, 0]
  const head = bytes.subarray(0, 64)
  for (const [i, byte] of head.entries()) if (byte === 0) zeros[i % 2] = (zeros[i % 2] as number) + 1
  const many = head.length / 4
  if ((zeros[1] as number) > many && zeros[0] === 0) return as('utf-16le')
  if ((zeros[0] as number) > many && zeros[1] === 0) return as('utf-16be')
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return as('windows-1252')
  }
}
