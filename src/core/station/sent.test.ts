import { describe, expect, it } from 'vitest'
import { bringSent, emptyRoutine, removeLearner } from '../routine'
import { type Came, cameKey, decideSent, type SentSeen } from './sent'

const NOW = new Date('2026-11-22T10:00:00.000Z')
const [EARLY, LATE] = ['2026-11-20T10:00:00.000Z', '2026-11-21T10:00:00.000Z']
const sent = (learner: string, made = LATE) => ({
  ...{ learner, made },
  marks: [{ from: 10, to: 14, sits: true, at: made }],
})
const came = (learner: string, made = LATE, id = 'device'): Came => ({
  ...{ id, receivedAt: made, sent: sent(learner, made) },
})
const seen = (of: Partial<SentSeen> = {}): SentSeen => ({
  routine: emptyRoutine('Dance'),
  times: Array.from({ length: 65 }, (_, i) => 10 + i * 0.5),
  ...{ closed: false, taken: new Set<string>(), now: NOW },
  ...of,
})
const of = (decision: ReturnType<typeof decideSent>, routine = emptyRoutine('Dance')) =>
  decision.act === 'take' ? decision.edit(routine) : expect.fail(decision.act)

describe('what came by the link of a class', () => {
  it('is taken in, under the id of the device, and let go once it is in', () => {
    const routine = of(decideSent(came('Mara'), seen()))
    expect(routine.learners).toMatchObject([{ id: 'device', name: 'Mara', made: LATE }])
    expect(decideSent(came('Mara'), seen({ routine }))).toEqual({ act: 'let go' })
    // As she wrote her name on another device, or in another window.
    expect(decideSent(came(' MARA '), seen({ routine }))).toEqual({ act: 'let go' })
    expect(decideSent(came('Bo', LATE, 'other'), seen({ routine })).act).toBe('take')
  })
  it('is made on what the routine is when it is edited, not on what it was', () => {
    const { learners } = of(
      decideSent(came('Mara'), seen()),
      bringSent(emptyRoutine('Dance'), 'other', sent('Bo'), seen().times, NOW),
    )
    expect(learners.map((x) => x.name)).toEqual(['Bo', 'Mara'])
  })
  it('stays out where it was undone here; what is sent later is taken in', () => {
    const undone = seen({ taken: new Set([cameKey(came('Mara', EARLY))]) })
    expect(decideSent(came('Mara', EARLY), undone)).toEqual({ act: 'let go' })
    expect(decideSent(came('Mara', LATE), undone).act).toBe('take')
    const routine = of(decideSent(came('Mara'), seen()))
    expect(decideSent(came('Mara'), seen({ routine: removeLearner(routine, 'device') })).act).toBe('take')
  })
  it('waits with why where it cannot be: something later is here, a clock is wrong, no counts', () => {
    const routine = of(decideSent(came('Mara'), seen()))
    expect(decideSent(came('Mara', EARLY), seen({ routine }))).toMatchObject({
      ...{ act: 'wait', why: 'What Mara saved later is here already.' },
    })
    expect(decideSent(came('Mara', '2027-11-21T10:00:00.000Z'), seen())).toMatchObject({
      ...{ act: 'wait', why: expect.stringContaining('the clock of that device is wrong') },
    })
    expect(decideSent(came('Mara'), seen({ times: [] }))).toMatchObject({
      ...{ act: 'wait', why: expect.stringContaining('not known yet') },
    })
  })
  it('waits for a person where it is a film, and where nothing may be changed', () => {
    const waits = { act: 'wait', why: '' }
    expect(decideSent({ ...came('Mara'), sent: null }, seen())).toEqual(waits)
    expect(decideSent(came('Mara'), seen({ closed: true }))).toEqual(waits)
    // In a window that changes nothing it is not let go of either.
    const routine = of(decideSent(came('Mara'), seen()))
    expect(decideSent(came('Mara'), seen({ routine, closed: true }))).toEqual(waits)
  })
})
