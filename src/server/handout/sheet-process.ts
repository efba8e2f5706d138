import type { SheetRow } from '@/core/handout'
import { type Paper, type SheetHead, sheetPdf } from './sheet-pdf'

/* A process of its own: what is to be set comes as JSON, a line of JSON and the PDF go out. */

// What a library says by itself is no part of the answer.
console.log = console.error

const chunks: Buffer[] = []
for await (const chunk of process.stdin) chunks.push(chunk as Buffer)
const asked = JSON.parse(Buffer.concat(chunks).toString('utf8')) as {
  rows: SheetRow[]
  head: SheetHead
  paper: Paper
}
const { pdf, missing } = await sheetPdf(asked.rows, asked.head, asked.paper)
process.stdout.write(`${JSON.stringify({ missing })}\n`)
process.stdout.write(pdf)
