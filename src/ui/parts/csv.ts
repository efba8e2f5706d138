import Papa from 'papaparse'

/** What a spreadsheet would take for a formula is told to be text (OWASP, "CSV Injection"). */
const harmless = (x: unknown) => (typeof x === 'string' && /^[=+\-@\t\r\n＝＋－＠]/.test(x) ? `'${x}` : x)

/** A table as CSV (RFC 4180), with a byte order mark, so that a spreadsheet reads letters beyond English. */
export const csvText = (columns: readonly string[], rows: readonly (readonly unknown[])[]): string =>
  `\uFEFF${Papa.unparse([[...columns], ...rows.map((r) => r.map(harmless))], { newline: '\r\n' })}\r\n`
