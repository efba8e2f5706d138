import { expect, it } from 'vitest'
import { placePhrases, type Routine } from '@/core/routine'
import { page } from '@/core/routine/hand.test-tools'
import { contentOf } from './printed'

/** Three eights at 120 a minute from 2 s on, of which only so many beats are in the song. */
const printedOf = (routine: Routine, beats = 25) =>
  contentOf(routine, {
    ...{ placed: placePhrases(routine), lines: [], tempo: 120, tempi: [], duration: 15, renumbered: false },
    times: Array.from({ length: beats }, (_, i) => 2 + i / 2),
  })

it('gives each count its number and its time, also those past the last beat that was heard', () => {
  const { song, numbers, beats, phrases } = printedOf({ ...page(3), title: 'Weather', credit: 'Nobody' }, 20)
  expect(song).toEqual({ title: 'Weather', artist: 'Nobody', duration: 15 })
  expect(numbers).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 1, 2, 3, 4, 5, 6, 7, 8, 1, 2, 3, 4, 5, 6, 7, 8])
  expect(beats).toEqual(numbers.map((_, i) => 2 + i / 2))
  expect(phrases).toEqual([8, 8, 8].map((counts) => ({ counts, pickUp: false })))
})

it('has sections from one beginning to the next, the last to the end of the page', () => {
  const section = { letter: 'A', kind: 'verse', name: '' } as const
  const sections = [
    { ...section, id: 's1', at: 0 },
    { ...section, id: 's2', at: 192, kind: 'chorus' as const, name: 'Loud' },
  ]
  expect(printedOf({ ...page(3), sections }).sections).toEqual([
    { beat: 0, start: 2, end: 6, text: 'A verse' },
    { beat: 8, start: 6, end: 14, text: 'A chorus: Loud' },
  ])
})

it('has the words that are sung, not the sounds', () => {
  const mark = { id: 'm', at: 3, end: null, kind: 'lyric' as const, text: 'rain' }
  const marks = [
    mark,
    { ...mark, id: 'n', kind: 'sound' as const, text: 'drum' },
    { ...mark, id: 'o', at: 4, end: 5 },
  ]
  expect(printedOf({ ...page(3), marks }).words).toEqual([
    { start: 3, end: null, text: 'rain' },
    { start: 4, end: 5, text: 'rain' },
  ])
})
