import { csvText } from './csv'

/** Lets the browser save a file, as if it had been downloaded. */
export function saveFile(name: string, content: string | Uint8Array | Blob, type: string): void {
  const url = URL.createObjectURL(
    content instanceof Blob ? content : new Blob([content as BlobPart], { type }),
  )
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  URL.revokeObjectURL(url)
}

/** What may stand in the name of a file everywhere. */
export function fileName(title: string): string {
  return title.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'routine'
}

/** Saves rows as a table for other programs. @param what what the rows are, for the name of the file */
export async function saveCsv(
  title: string,
  what: string,
  rows: readonly Record<string, unknown>[],
): Promise<void> {
  const columns = Object.keys(rows[0] ?? {})
  const text = await csvText(
    columns,
    rows.map((r) => columns.map((c) => r[c])),
  )
  saveFile(`${fileName(title)} ${what}.csv`, text, 'text/csv')
}
