import Papa from 'papaparse'
import type { Table } from '@/core/handout'

/** What a spreadsheet would take for a formula is told to be text. */
const harmless = (x: string | number) => (typeof x === 'string' && /^[=+\-@\t\r]/.test(x) ? `'${x}` : x)

/** A table as CSV (RFC 4180), with a byte order mark, so that letters beyond English are read. */
export const csvOf = ({ columns, rows }: Table): string =>
  `\uFEFF${Papa.unparse([[...columns], ...rows.map((r) => r.map(harmless))], { newline: '\r\n' })}\r\n`

/** Tables as the sheets of one XLSX file. */
export async function xlsxOf(tables: readonly Table[]): Promise<Blob> {
  const { default: write } = await import('write-excel-file/universal')
  return write(
    tables.map((t) => ({
      sheet: t.name,
      stickyRowsCount: 1,
      columns: t.columns.map((c) => ({ width: Math.max(10, Math.min(40, c.length + 6)) })),
      data: [
        t.columns.map((c) => ({ value: c, fontWeight: 'bold' as const })),
        ...t.rows.map((r) =>
          r.map((x) => (typeof x === 'number' ? { value: x, type: Number } : { value: x, type: String })),
        ),
      ],
    })),
  ).toBlob()
}
