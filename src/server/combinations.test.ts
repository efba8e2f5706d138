import * as v from 'valibot'
import { describe, expect, it } from 'vitest'
import { readWav } from '@/core/formats/wav'
import { placePhrases, repairedBeats } from '@/core/routine'
import { removeRoutine } from './bin'
import { beginCombination, CombinationSchema } from './combinations'
import { diskStore } from './file-store'
import { filesKept, ownData } from './own-data.test-tools'
import { copyRoutine, openRoutine } from './routines'
import { listCombinations, shelfPart } from './shelf'

const dir = ownData()
const sounds = () => filesKept(dir, 'audio')
const asked = { title: 'Across the floor', tempo: 100, eights: 4 }

describe('moves without a song', () => {
  it('are a routine on silence, counted at their tempo, begun once however often it is asked', async () => {
    expect(await beginCombination({ id: 'first', ...asked }, 'first')).toBe('first')
    expect(await beginCombination({ id: 'first', ...asked }, 'first')).toBe('first')
    const { routine, heard } = await openRoutine('first')
    expect(routine).toMatchObject({ title: 'Across the floor', combination: true })
    expect(placePhrases(routine).map((p) => p.phrase.length)).toEqual([8, 8, 8, 8])
    const times = repairedBeats(heard?.hearing.beats ?? [], routine.repairs)
    expect(times).toHaveLength(32)
    expect((times[31] as number) - (times[0] as number)).toBeCloseTo(31 * 0.6, 9)
    expect(await listCombinations()).toEqual([{ id: 'first', title: 'Across the floor' }])
    // Another tempo is another silence: what has that id stays, and nothing is left over.
    await expect(beginCombination({ id: 'first', ...asked, tempo: 90 }, 'first')).rejects.toMatchObject({
      status: 409,
    })
    expect(sounds()).toHaveLength(1)
    const { items } = await shelfPart({ search: '', order: 'used', from: 0 })
    expect(items).toMatchObject([{ title: 'Across the floor', combination: true, heard: { tempo: 100 } }])
  })
  it('share their silence, which is silent, and take it along when the last of them goes', async () => {
    await beginCombination({ id: 'second', ...asked, title: 'Turns' }, 'second')
    const copy = await copyRoutine('second')
    expect(sounds()).toHaveLength(1)
    expect((await listCombinations()).map((c) => c.title)).toEqual([
      'Across the floor',
      'Turns',
      'Turns (copy)',
    ])
    const song = await openRoutine('second').then((r) => r.song)
    const wav = readWav(
      new Uint8Array(await new Response(diskStore().read(song.hash, 0, song.bytes - 1)).arrayBuffer()),
    )
    expect(wav.channels[0]?.every((x) => x === 0)).toBe(true)
    for (const id of ['first', 'second', copy]) await removeRoutine(id)
    expect(sounds()).toEqual([])
  })
  it.each([
    [{ ...asked, title: ' ' }, 'A combination needs a name.'],
    [{ ...asked, tempo: 10 }, 'Invalid value'],
    [{ ...asked, eights: 65 }, 'Invalid value'],
    [{ ...asked, eights: 1.5 }, 'Invalid integer'],
  ])('are refused where %o', (what, why) => {
    const read = v.safeParse(CombinationSchema, { id: 'x', ...what })
    expect(read.success ? '' : read.issues[0].message).toContain(why)
  })
})
