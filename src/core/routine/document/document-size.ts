/** Bytes of a text in UTF-8 (RFC 3629). */
function utf8Bytes(text: string): number {
  let bytes = text.length
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i)
    // Two units of one character are four bytes: two each.
    if (unit > 0x7f) bytes += unit > 0x7ff && (unit < 0xd800 || unit > 0xdfff) ? 2 : 1
  }
  return bytes
}

const jsonBytes = (value: unknown) => utf8Bytes(JSON.stringify(value) ?? '')
/** Cues, phrases and the like never change, so each is measured once. */
const known = new WeakMap<object, number>()

function itemBytes(item: unknown): number {
  if (typeof item !== 'object' || item === null) return jsonBytes(item)
  let bytes = known.get(item)
  if (bytes === undefined) {
    bytes = jsonBytes(item)
    known.set(item, bytes)
  }
  return bytes
}

/** Bytes a document takes as JSON in UTF-8. What its lists hold is measured once for each edit that made it. */
export function documentBytes(document: object): number {
  let bytes = 2
  for (const [key, value] of Object.entries(document)) {
    if (value === undefined) continue
    bytes += key.length + 4
    if (!Array.isArray(value)) bytes += jsonBytes(value)
    else for (const item of value) bytes += itemBytes(item) + 1
  }
  return bytes
}
