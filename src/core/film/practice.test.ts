import { describe, expect, it } from 'vitest'
import { followBody, moveBook, START, STARTING_MOVES } from '../choreo'
import { soundPlan, USUAL_SOUND, usualContents } from '../handout'
import { danced, emptyRoutine, everyEight, layOut, placePhrases, type Routine } from '../routine'
import { ids } from '../routine/hand.test-tools'
import { type FilmScene, filmMoment } from '.'

const times = Array.from({ length: 33 }, (_, i) => 1 + i * 0.5)
const cue = (id: string, at: number, move: string, more = {}) => ({
  ...{ id, at, length: 24, layer: 'feet' as const, move, side: 'left' as const, call: '' },
  ...more,
})
const routine: Routine = {
  ...layOut(emptyRoutine('x'), { counts: 32, starts: everyEight(0, 32), sections: [] }, ids('p')),
  cues: [
    cue('a', 192, 'step'),
    cue('b', 216, 'touch', { side: 'right', caution: 'knee' }),
    cue('d', 240, 'turn', { step: 'turn', turn: { to: 'left', eighths: 2 } }),
    cue('c', 192, 'reach', { layer: 'arms', length: 48 }),
  ],
}
const contents = { ...usualContents(routine), stretch: { from: 192, to: 384 } }
const plan = soundPlan(routine, times, contents, {
  ...USUAL_SOUND,
  speeds: [0.5, 1],
  times: 1,
  announced: false,
})

const scene = (mirrored = false): FilmScene => {
  const shown = danced(routine)
  const steps = followBody(shown, moveBook([...STARTING_MOVES]), START, []).steps
  return { plan, times, placed: placePhrases(routine), cues: shown, steps, mirrored }
}

describe('a moment of a practice film', () => {
  const first = plan.legs[0] as (typeof plan.legs)[0]
  const at = (counts: number, mirrored = false) => filmMoment(scene(mirrored), first.start + counts + 0.01)

  it('shows the count, what is danced, what beside it, what to mind, and what comes', () => {
    // At 50 % a count lasts a second.
    expect(at(0)).toMatchObject({
      count: '1',
      now: 'step L',
      beside: 'arms: reach L',
      next: '2 touch R',
      countingIn: false,
    })
    expect(at(1)).toMatchObject({
      count: '2',
      now: 'touch R',
      caution: 'mind the knee',
      speedName: '50 %',
      speed: 0.5,
    })
    expect(at(5)).toMatchObject({ count: '6', now: '', next: '' })
    expect(at(1).song).toBeCloseTo(5.5 + 0.005, 5)
    expect(at(0).piece).toEqual({ from: 5, to: 9 })
  })

  it('counts in before it, and stands still between two speeds', () => {
    expect(at(-0.5)).toMatchObject({ count: '8', countingIn: true, next: '1 step L · reach L' })
    const between = filmMoment(scene(), first.start + first.timeline.body + 0.5)
    expect(between).toMatchObject({ song: null, count: '' })
    expect(filmMoment(scene(), plan.seconds + 5).song).toBeNull()
  })

  it('is seen as in a mirror where that is wished', () => {
    expect(at(0, true)).toMatchObject({ now: 'step R', next: '2 touch L' })
    const [plain, turned] = [at(0), at(0, true)]
    expect([plain.pose.weight, turned.pose.weight]).toEqual(['left', 'right'])
    const [facing, other] = [at(3).pose.facing, at(3, true).pose.facing]
    expect(facing).not.toBe(0)
    expect(other).toBe(8 - Number(facing))
  })
})
