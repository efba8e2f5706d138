/** What a spreadsheet would take for a formula is told to be text (OWASP, "CSV Injection"). */
const harmless = (x: unknown) => (typeof x === 'string' && /^[=+\-@\t\r\n＝＋－＠]/.test(x) ? `'${x}` : x)

/** A table as CSV (RFC 4180), with a byte order mark, so that a spreadsheet reads letters beyond English. */
export async function csvText(
  columns: readonly string[],
  rows: readonly (readonly unknown[])[],
): Promise<string> {
  // What writes it is loaded where a table is saved.
  const { default: Papa } = await import('papaparse')
  const table = [[...columns], ...rows.map((r) => r.map(harmless))]
  return `\uFEFF${Papa.unparse(table, { newline: '\r\n' })}\r\n`
}
