import type { SheetMade } from './set-sheet'

/** So many letters no font has are named. */
const MOST_NAMED = 40

/** A sheet as an answer; letters no font of the app has are named in a header. */
export const sheetResponse = ({ pdf, missing }: SheetMade): Response =>
  new Response(new Uint8Array(pdf), {
    headers: {
      'content-type': 'application/pdf',
      'x-missing-letters': encodeURIComponent(missing.slice(0, MOST_NAMED).join('')),
      'cache-control': 'no-store',
    },
  })
