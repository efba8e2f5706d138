import { describe, expect, it } from 'vitest'
import { bodyOf, type Entry, entryOf, lineOf } from './entry'

const entry = (what: Partial<Entry>): Entry => ({
  ...{ id: 'an-entry', document: 'routine x', what: 'the routine', method: 'PUT', url: '/api/routines/x' },
  ...{ body: '{"routine":{"title":"Ä"}}', window: 'w', order: 1, ...what },
})

describe('an entry', () => {
  it('is sent with the save it is, and without the window it waits for', () => {
    const saving = { revision: 3, writer: 'window-one', save: 2, after: 'window-old' }
    expect(JSON.parse(bodyOf(entry({ saving })))).toEqual({
      ...{ revision: 3, writer: 'window-one', save: 2 },
      routine: { title: 'Ä' },
    })
    expect(bodyOf(entry({ document: '', body: '{"a":1}' }))).toBe('{"a":1}')
  })
  it('that an earlier version kept has its save in its body, and is sent as it was', () => {
    const body = '{"revision":3,"writer":"window-one","save":2,"routine":{"title":"Ä"}}'
    const read = entryOf(entry({ body }))
    expect(read?.saving).toEqual({ revision: 3, writer: 'window-one', save: 2 })
    expect(read && bodyOf(read)).toBe(body)
  })
  it.each([null, 'text', { id: 1 }, { ...entry({}), method: 'PATCH' }])('is none: %j', (kept) => {
    expect(entryOf(kept)).toBeNull()
  })
  it('stands in a line with those that took up its window', () => {
    const of = (writer: string, save: number, after?: string) =>
      entry({ id: `${writer}${save}`, saving: { revision: 0, writer, save, ...(after ? { after } : {}) } })
    const all = [of('a', 1), of('x', 1), of('b', 1, 'a'), of('c', 1, 'b'), of('a', 2)]
    const ids = (writer: string) => lineOf(all, 'routine x', writer).map((e) => e.id)
    expect([ids('a'), ids('b'), ids('x'), ids('none')]).toEqual([
      ['a1', 'b1', 'c1', 'a2'],
      ['b1', 'c1'],
      ['x1'],
      [],
    ])
  })
})
