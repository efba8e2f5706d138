import { handle } from '@/server/handle'
import { sheetResponse } from '@/server/handout/sheet-response'
import { may } from '@/server/may'
import { sheetSet } from '@/server/sheets'

/** A sheet that was set, as a PDF. */
export const GET = handle<{ id: string; sheet: string }>(may.ownSheet, async (_, { sheet }) =>
  sheetResponse(await sheetSet(sheet)),
)
