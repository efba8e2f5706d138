import { describe, expect, it } from 'vitest'
import { ROUTINE_VERSION } from '..'
import type { Routine } from '../document/schema'
import { cuesOf, page } from '../hand.test-tools'
import { fingerprintOf, type PastStep, readPast, writePast } from './past'

/** A routine of which one cue more was taken out in each step. */
function steps(n: number): { now: Routine; past: PastStep[] } {
  const cues = cuesOf(['1 step R; 3 touch L; 5 step L; 7 clap', '1 jump; 2 land; 5 turn ½ left'])
  const first = page(4, cues)
  const all = Array.from({ length: n + 1 }, (_, k) => ({
    routine: { ...first, cues: cues.slice(k) },
    did: `take out ${k}`,
  }))
  return { now: (all[n] as PastStep).routine, past: all.slice(0, n) }
}

const EMPTY = { did: 'last', future: [] }
const MOST = 100_000

describe('what undo knew before a page was loaded', () => {
  it('comes back in order, with what did not change shared', () => {
    const { now, past } = steps(3)
    const found = readPast(writePast(now, { ...EMPTY, past }, MOST), now)
    expect(found).toEqual({ ...EMPTY, past })
    expect(found?.past[0]?.routine.cues.at(-1)).toBe(now.cues.at(-1))
    expect(found?.past[0]?.routine.phrases).toBe(now.phrases)
  })
  it('belongs to the very document it was written of, in whatever order its fields are', () => {
    const { now, past } = steps(2)
    const text = writePast(now, { ...EMPTY, past }, MOST)
    const turned = Object.fromEntries(Object.entries(now).reverse()) as Routine
    expect(fingerprintOf(turned)).toBe(fingerprintOf(now))
    expect(readPast(text, turned)?.past).toHaveLength(2)
    const [first, ...others] = now.cues
    for (const other of [
      { ...now, title: `${now.title}.` },
      { ...now, cues: [...others, first as (typeof others)[number]] },
      { ...now, cues: now.cues.map((c) => ({ ...c, at: c.at + 1 })) },
    ])
      expect(readPast(text, other)).toBeNull()
  })
  it('that is damaged or of another version is nothing', () => {
    const { now, past } = steps(1)
    const text = writePast(now, { ...EMPTY, past }, MOST)
    const damaged = [
      '',
      '{',
      text.slice(0, -9),
      text.replace(`"version":${ROUTINE_VERSION}`, `"version":${ROUTINE_VERSION + 1}`),
      text.replace('"cues":[', '"tricks":['),
      text.replace('"cues":[0', '"cues":[-1'),
    ]
    expect(damaged.every((t) => t !== text)).toBe(true)
    for (const t of damaged) expect(readPast(t, now)).toBeNull()
  })
  it('ends before what could not be saved, and before another hearing', () => {
    const { now, past } = steps(4)
    const bent = past.map((p, k) => (k === 1 ? { ...p, routine: { ...p.routine, title: '' } } : p))
    expect(readPast(writePast(now, { ...EMPTY, past: bent }, MOST), now)?.past).toEqual(past.slice(2))
    const heard = past.map((p, k) => (k === 0 ? { ...p, routine: { ...p.routine, heardWith: 7 } } : p))
    expect(readPast(writePast(now, { ...EMPTY, past: heard }, MOST), now)?.past).toEqual(past.slice(1))
  })
  it('is as long as there is room: the nearest steps, undo before redo', () => {
    const { now, past } = steps(5)
    const whole = writePast(now, { ...EMPTY, past, future: past }, MOST)
    for (let most = 0; most < whole.length; most += 20) {
      const text = writePast(now, { ...EMPTY, past, future: past }, most)
      expect(text.length).toBeLessThanOrEqual(most + 150)
      const found = readPast(text, now)
      const kept = found?.past.length ?? -1
      expect(found?.past).toEqual(past.slice(5 - kept))
      if (found?.future.length) expect(kept).toBe(5)
    }
  })
})
