import * as XLSX from '@e965/xlsx'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { csvOf, xlsxOf } from './spreadsheet'

const table = {
  name: 'Cues',
  columns: ['Place', 'Count', 'Seconds', 'Tip'],
  rows: [
    ['Verse, “eight” 1', '1&', 12.345, 'Low, "soft"\nand late'],
    ['Припев', '2', -0.5, '=1+1'],
    ['', '8', 0, ''],
  ],
}

// Read back by packages that did not write them.
describe('a spreadsheet', () => {
  it('as XLSX holds every cell, numbers as numbers, formulas as text', async () => {
    const blob = await xlsxOf([table, { ...table, name: 'Counts', rows: [] }])
    const book = XLSX.read(new Uint8Array(await blob.arrayBuffer()))
    expect(book.SheetNames).toEqual(['Cues', 'Counts'])
    const rows = XLSX.utils.sheet_to_json(book.Sheets.Cues as XLSX.WorkSheet, { header: 1, defval: '' })
    expect(rows).toEqual([table.columns, ...table.rows])
    expect((book.Sheets.Cues as XLSX.WorkSheet).D3?.f).toBeUndefined()
  })
  it('as CSV (RFC 4180) comes back, and no text is taken for a formula', async () => {
    const text = await csvOf(table)
    expect(text.startsWith('\uFEFF')).toBe(true)
    expect(text.split('\r\n').length).toBeGreaterThan(4)
    const { data } = Papa.parse<string[]>(text.slice(1).trimEnd())
    expect(data[1]).toEqual(['Verse, “eight” 1', '1&', '12.345', 'Low, "soft"\nand late'])
    expect(data[2]).toEqual(['Припев', '2', '-0.5', "'=1+1"])
  })
})
