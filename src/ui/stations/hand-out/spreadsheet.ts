import type { Table } from '@/core/handout'
import { csvText } from '../../parts/csv'

/** A table as CSV. */
export const csvOf = ({ columns, rows }: Table): Promise<string> => csvText(columns, rows)

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
