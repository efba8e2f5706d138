import type { InValue } from '@libsql/client'
import { type Column, getTableColumns, getTableName, type Table } from 'drizzle-orm'
import * as v from 'valibot'
import { MoveListSchema } from '@/core/choreo'
import * as schema from './schema'

/** The latest time a row may be of: the log knows none after it. */
const LATEST = Date.UTC(2200, 0)
const json = (text: unknown): unknown => {
  try {
    return typeof text === 'string' ? JSON.parse(text) : undefined
  } catch {
    return undefined
  }
}

/** True for a value its column can hold, as Drizzle reads it: SQLite itself takes anything anywhere. */
function fits(column: Column, value: InValue | undefined): boolean {
  if (value === null || value === undefined) return !column.notNull
  switch (column.dataType) {
    case 'string':
      return typeof value === 'string' && (!column.enumValues?.length || column.enumValues.includes(value))
    case 'number':
      return (
        typeof value === 'number' &&
        Number.isFinite(value) &&
        (column.columnType !== 'SQLiteInteger' || Number.isInteger(value))
      )
    case 'boolean':
      return value === 0 || value === 1
    case 'date':
      return Number.isInteger(value) && (value as number) >= 0 && (value as number) < LATEST
    case 'json':
    case 'custom':
      return json(value) !== undefined
    case 'buffer':
      return value instanceof ArrayBuffer || ArrayBuffer.isView(value)
    default:
      return false
  }
}

const isObject = (text: unknown) => {
  const data = json(text)
  return typeof data === 'object' && data !== null && !Array.isArray(data)
}

/** What a table's rows must be beside their columns. */
const MORE = new Map<Table, (row: Record<string, InValue>) => boolean>([
  [schema.routines, (r) => isObject(r.document)],
  [schema.hearings, (r) => isObject(r.data)],
  [schema.presets, (r) => isObject(r.settings)],
  [schema.moveLists, (r) => v.is(MoveListSchema, json(r.document))],
  [schema.repetitions, (r) => v.is(v.array(v.pipe(v.number(), v.finite())), json(r.slips))],
])

/** True for a row that is what its table says, by the names of its columns. */
export function isSound(table: Table, row: Record<string, InValue>): boolean {
  const columns = Object.values(getTableColumns(table))
  return columns.every((c) => fits(c, row[c.name])) && (MORE.get(table)?.(row) ?? true)
}

/** True for a value that Drizzle read as its column says. */
function isRead(column: Column, value: unknown): boolean {
  if (value === null || value === undefined) return !column.notNull
  if (column.dataType === 'date') return value instanceof Date && Number.isFinite(value.getTime())
  if (column.dataType === 'number') return typeof value === 'number' && Number.isFinite(value)
  if (column.dataType === 'string')
    return typeof value === 'string' && (!column.enumValues?.length || column.enumValues.includes(value))
  return true
}

/** Rows as they were read from a table, without those that are damaged: one of them keeps nobody from the others. */
export function readableRows<R extends Record<string, unknown>>(table: Table, rows: readonly R[]): R[] {
  const columns = Object.entries(getTableColumns(table))
  const good = rows.filter((r) => columns.every(([name, c]) => isRead(c, r[name])))
  if (good.length < rows.length)
    console.warn(
      `${rows.length - good.length} rows of ${getTableName(table)} cannot be read; they are passed over.`,
    )
  return good
}
