import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { csvText } from './csv'

describe('a table as CSV', () => {
  it('holds nothing a spreadsheet would reckon, and is read back whole', async () => {
    const rows = [
      ['=HYPERLINK("x")', '+1', '-step', '@here', '\tx', '＝1', 'plain; "quoted", and\nlines', -12.5],
    ]
    const text = await csvText(['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'], rows)
    expect(text.startsWith('\uFEFFa,b,c')).toBe(true)
    expect(Papa.parse(text.slice(1).trimEnd()).data[1]).toEqual([
      ...[
        '\'=HYPERLINK("x")',
        "'+1",
        "'-step",
        "'@here",
        "'\tx",
        "'＝1",
        'plain; "quoted", and\nlines',
        '-12.5',
      ],
    ])
  })
})
