import { describe, expect, it } from 'vitest'
import {
  type Cue,
  clear,
  copied,
  danced,
  lengthenCue,
  letStand,
  lineOf,
  mirrorMarked,
  parseLine,
  paste,
  putLine,
  type Routine,
  replaceWords,
  setRepeat,
  USUAL,
  withDetail,
} from '../routine'
import { cuesOf, ids, page, phrase } from '../routine/hand.test-tools'
import {
  asDanced,
  type Finding,
  findings,
  firstSpeed,
  followBody,
  moveBook,
  moveNamed,
  movesLike,
  namedMove,
  paceOf,
  STARTING_MOVES,
  turnOf,
} from '.'

const book = moveBook(STARTING_MOVES)
const times = (bpm: number, n = 64) => Array.from({ length: n }, (_, i) => (i * 60) / bpm)
const found = (r: Routine, bpm = 100) => findings({ ...r, excerpt: { from: 0, to: 192 } }, times(bpm), book)
const EIGHT = '1 step R; 2 touch L; 3 step L; 4 touch R; 5 step R; 6 touch L; 7 step L; 8 touch R'
const change = (r: Routine, at: number, what: Partial<Cue>): Routine => ({
  ...r,
  cues: r.cues.map((c) => (c.at === at ? withDetail(c, what) : c)),
})

describe('findings', () => {
  it('are none where all is well', () => {
    expect(found(page(1, cuesOf(EIGHT)))).toEqual([])
    expect(found(page(1))).toEqual([])
  })
  it('name the foot that carries the weight, both counts, and mend it', () => {
    const r = page(1, cuesOf('1 step R; 2 step R; 3 step R; 4 hold'))
    const [first] = found(r)
    expect(first?.kind).toBe('weight')
    expect(first?.says).toContain('2 of Eight 1')
    expect(first?.says).toContain('on 1 of Eight 1')
    const mended = first?.mend?.change(r) as Routine
    expect(found(mended).filter((f) => f.kind === 'weight')).toEqual([])
  })
  it('let stand do not come back until their cues change', () => {
    const r = page(1, cuesOf('1 step R; 2 step R'))
    const [f] = found(r)
    const stands = { ...r, dismissed: f ? [{ about: f.about, reason: 'on purpose' }] : [] }
    expect(found(stands).filter((x) => x.kind === 'weight')).toEqual([])
    expect(found(change(stands, 24, { move: 'walk' })).map((x) => x.kind)).toContain('weight')
  })
  it('compare a stated wall with the turns so far', () => {
    const r = change(page(1, cuesOf('1-2 turn 3/4 right')), 0, { facing: 4 })
    const [f] = found(r)
    expect([f?.kind, f?.says]).toEqual(['facing', expect.stringContaining('the turns so far lead to left')])
    expect(found(f?.mend?.change(r) as Routine).map((x) => x.kind)).not.toContain('facing')
  })
  it('ask for what a learner can follow, layer by layer', () => {
    const r = page(1, cuesOf('1 step R; 1& step L; 2 step R'))
    expect(found({ ...r, leastGap: 0.3 }, 100).filter((f) => f.kind === 'fast')).toHaveLength(0)
    const [fast, ...more] = found({ ...r, leastGap: 0.31 }, 100).filter((f) => f.kind === 'fast')
    expect([fast?.says, more]).toEqual([
      'From 1 of Eight 1 to 2 of Eight 1 actions of the feet come 2 times less than 0.31 s apart; the nearest are “step R” to “step L” on 1& of Eight 1, 0.30 s at full tempo.',
      [],
    ])
    expect(fast?.why).toContain('You asked for')
  })
  it('of pace say whose rule it is, and come as one for a stretch', () => {
    const quick = '1 step R; 1e step L; 1& step R; 8 step L'
    const r = page(4, cuesOf([quick, '', '', quick]))
    const fast = (of: Routine, bpm = 100) => found(of, bpm).filter((f) => f.kind === 'fast')
    expect(fast(r).map((f) => f.at)).toEqual([0, 576])
    expect(fast(r)[0]?.why).toContain('Azalea takes 0.25 s for beginners at this tempo')
    const plan = (grade: 'advanced' | 'intermediate') =>
      ({ ...r, plans: [{ settings: { ...USUAL, grade } }] }) as unknown as Routine
    expect(fast(plan('advanced'))).toHaveLength(0)
    // Those with practice dance every "&", at any tempo: at 200 a half count is 0.15 s.
    const halves = page(1, cuesOf('1 step R; 1& step L; 2 step R'))
    expect(fast(halves, 200)).toHaveLength(1)
    expect(fast({ ...halves, plans: plan('intermediate').plans }, 200)).toHaveLength(0)
    // A pair that was let stand is no part of a stretch any more.
    const [first] = fast(page(1, cuesOf('1 step R; 1e step L')))
    const stood = letStand(r, { ...(first as Finding).about }, 'they can')
    expect(fast(stood).map((f) => f.at)).toEqual([6, 576])
  })
  it('see jumps of level, clashes, cautions without a tip, and sides that contradict the words', () => {
    const level = change(change(page(1, cuesOf('1 kneel; 2 reach up')), 0, { level: 'floor' }), 24, {
      level: 'high',
    })
    expect(found(level).map((f) => f.kind)).toContain('level')
    expect(found(level, 60).map((f) => f.kind)).not.toContain('level')
    const clash = page(1, [...cuesOf('1 step R'), ...cuesOf('1 step R', 'feet', ids('twin'))])
    expect(found(clash).map((f) => f.kind)).toContain('clash')
    // A sixteenth apart is danced; a tick nearer is not.
    const apart = (ticks: number) => {
      const [one, two] = cuesOf('1 sway', 'body', ids('near'))
      if (!one || two) throw new Error('one cue expected')
      return found(page(1, [one, { ...one, id: 'late', at: one.at + ticks }])).map((f) => f.kind)
    }
    expect(apart(6)).not.toContain('clash')
    expect(apart(5)).toContain('clash')
    const risky = change(page(1, cuesOf(EIGHT)), 0, { caution: 'knee' })
    expect(found(risky).map((f) => f.kind)).toEqual(['caution'])
    expect(found(change(risky, 0, { tip: 'land soft' }))).toEqual([])
    const side = change(page(1, cuesOf('1 cross over left')), 0, { side: 'right' })
    const [f] = found(side)
    expect(f?.kind).toBe('side')
    const mended = f?.mend?.change(side) as Routine
    expect(mended.cues[0]?.side).toBe('left')
    expect(found(page(1, cuesOf('1 pivot ½ left R')))).toEqual([])
  })
  it('hold for the easier and the harder way of each role, not for a way of dancing that is no version', () => {
    const clash = (tag: string) =>
      found(
        page(1, cuesOf(`1 step R; 2 step L; 3 step R; 3 step L ${tag}; 4 step ${tag ? 'L' : 'R'} ${tag}`)),
      )
    const wrong = (tag: string) => {
      const r = page(1, cuesOf(`1 step R; 2 step L; 3 step R ${tag}; 4 step R ${tag}; 5 hold`))
      return found(r).filter((f) => f.kind === 'weight')
    }
    for (const tag of ['', '#easier', '#harder', '@rows', '@rows #easier'])
      expect(wrong(tag), tag).not.toEqual([])
    expect(clash('#easier').map((f) => f.kind)).not.toContain('clash')
  })
  it('let the two arms do two things at one time, but not one arm, nor two feet', () => {
    const clashes = (line: string, layer: 'arms' | 'feet' = 'arms') =>
      found(page(1, cuesOf(line, layer))).filter((f) => f.kind === 'clash').length
    expect(clashes('1 punch R; 1 fist at the hip L')).toBe(0)
    expect(clashes('1 punch R; 1 fist at the hip R')).toBe(1)
    expect(clashes('1 punch R; 1 fist at the hip L; 1 snap R')).toBe(1)
    expect(clashes('1 punch; 1 fist at the hip L')).toBe(1)
    expect(clashes('1 step R; 1 step L', 'feet')).toBe(1)
  })
  it('of a side are of left and right alone', () => {
    const said = (side: Cue['side']) =>
      found(page(1, [{ ...(cuesOf('1 cross over left')[0] as Cue), side }])).filter((f) => f.kind === 'side')
    expect((['left', 'right', 'both', 'none'] as const).map((s) => said(s).length)).toEqual([0, 1, 0, 0])
    const other = found(page(1, [{ ...(cuesOf('1 cross over right')[0] as Cue), side: 'left' }]))
    expect(other.filter((f) => f.kind === 'side')).toHaveLength(1)
  })
  it('see long stretches without a cue, inside the dance only', () => {
    const r = { ...page(4, cuesOf('1 step R')), excerpt: { from: 0, to: 192 * 4 } }
    const [f] = findings(r, times(100), book)
    expect([f?.kind, f?.at, f?.says]).toEqual(['empty', 24, expect.stringContaining('31 counts')])
    expect(findings({ ...r, excerpt: { from: 0, to: 192 } }, times(100), book)).toEqual([])
  })
  it('see cues outside the dance as it was set by hand, and take them in', () => {
    const outside = (of: Routine) => findings(of, times(100), book).filter((f) => f.kind === 'outside')
    const written = page(4, cuesOf(['1 step R', '5 step L', '7 step R']))
    expect(outside(written)).toEqual([])
    const r = { ...written, excerpt: { from: 192, to: 192 * 2 } }
    expect(outside(r).map((f) => [f.at, f.says])).toEqual([
      [0, 'A cue stands before the dance begins, from 1 of Eight 1 on.'],
      [2 * 192 + 6 * 24, 'A cue stands after the dance ends, from 7 of Eight 3 on.'],
    ])
    const taken = outside(r).reduce((now: Routine, f) => f.mend?.change(now) ?? now, r)
    expect(taken.excerpt).toEqual({ from: 0, to: 2 * 192 + 7 * 24 })
    expect(outside(taken)).toEqual([])
  })
  it('look at every role and option by itself', () => {
    const r = page(1, cuesOf('1 step R; 2 step L; 2 step R @rows; 3 touch R; 3 touch L @rows #easier'))
    expect(
      found(r)
        .filter((f) => f.kind === 'weight')
        .map((f) => f.says),
    ).toEqual([
      expect.stringContaining('2 of Eight 1 (rows)'),
      expect.stringContaining('3 of Eight 1 (rows)'),
    ])
  })
  it('reach through repeats', () => {
    const r = setRepeat(
      page(2, cuesOf('1 step R; 2 step L; 3 step R')),
      { id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: false },
      ids(),
    )
    const all = findings({ ...r, excerpt: { from: 0, to: 384 } }, times(100), book)
    expect(all.filter((f) => f.kind === 'weight').map((f) => f.at)).toEqual([192])
  })
})

describe('pace', () => {
  // Worked by hand: at 130 BPM half a count lasts 0.2308 s.
  it('is the least gap between actions, at a speed', () => {
    const cues = cuesOf('3 step R; 3& step L; 4 step R')
    const at = (speed: number) => paceOf(cues, times(130), { from: 0, to: 192 }, 'feet', speed, book)
    expect(at(1).leastGap).toBeCloseTo(0.2308, 4)
    expect(at(0.6).leastGap).toBeCloseTo(0.3846, 4)
    expect(at(1).actions).toBe(3)
    expect(at(1).perSecond).toBeCloseTo(3 / (8 * (60 / 130)), 6)
    expect(firstSpeed(at(1).leastGap ?? 0, 0.4)).toBe(0.55)
  })
  it('counts no holds, no open counts, and what happens together once', () => {
    const cues = [...cuesOf('1 step R; 2 hold; 3 freestyle; 4 step L'), ...cuesOf('1 clap; 4 clap', 'arms')]
    const sorted = cues.sort((a, b) => a.at - b.at)
    const all = paceOf(sorted, times(120), { from: 0, to: 192 }, null, 1, book)
    expect([all.actions, all.leastGap]).toEqual([2, 1.5])
    expect(paceOf([], times(120), { from: 0, to: 192 }, null, 1, book).leastGap).toBeNull()
  })
  it('suggests speeds between 40 and 100 %', () => {
    expect(firstSpeed(0.1, 0.5)).toBe(0.4)
    expect(firstSpeed(2, 0.5)).toBe(1)
  })
})

describe('roles and options', () => {
  it('fall back to the base where nothing else is written', () => {
    const cues = cuesOf('1 step R; 2 jump; 2 step L #easier; 3 clap @rows; 4 hold; 4 turn @rows #harder')
    const list = (role: string, option: 'base' | 'easier' | 'harder') =>
      asDanced(cues, role, option).map((c) => c.move)
    expect(list('', 'base')).toEqual(['step', 'jump', 'hold'])
    expect(list('', 'easier')).toEqual(['step', 'step', 'hold'])
    expect(list('rows', 'base')).toEqual(['step', 'jump', 'clap', 'hold'])
    expect(list('rows', 'harder')).toEqual(['step', 'jump', 'clap', 'turn'])
    expect(list('soloist', 'base')).toEqual(['step', 'jump', 'hold'])
  })
})

describe('edits', () => {
  const all = { from: 0, to: 192, layers: ['feet' as const] }
  it('copy what is danced, put it down elsewhere, mirror, clear', () => {
    const r = page(2, cuesOf('1 step R; 2 touch L'))
    const put = paste(r, copied(danced(r), all), 192, ids('n')).routine
    expect(put.cues.map((c) => [c.at, c.move])).toEqual([
      [0, 'step'],
      [24, 'touch'],
      [192, 'step'],
      [216, 'touch'],
    ])
    expect(put.cues.every((c) => !('link' in c))).toBe(true)
    expect(paste(put, copied(danced(r), all), 192, ids('m')).routine.cues).toHaveLength(4)
    expect(mirrorMarked(r, all, ids('t')).cues[0]?.side).toBe('left')
    expect(clear(r, all, ids('t')).cues).toEqual([])
    expect(clear(page(1), all, ids('t')).cues).toEqual([])
  })
  it('a line replaces one layer of a phrase and keeps what it does not show', () => {
    const r = change(page(1, [...cuesOf('1 step R; 2 touch L'), ...cuesOf('1 clap', 'arms')]), 24, {
      tip: 'soft knee',
    })
    const p = phrase(r, 0)
    expect(putLine(r, p, 'feet', lineOf(r, p, 'feet'), ids())).toBe(r)
    const next = putLine(
      r,
      p,
      'feet',
      parseLine('2 touch R; 5 walk L @rows', { length: 8, feel: 'straight', first: 1 }),
      ids('n'),
    )
    expect(next.cues.find((c) => c.at === 24 && c.layer === 'feet')).toMatchObject({
      side: 'right',
      tip: 'soft knee',
    })
    expect(next.cues.filter((c) => c.layer === 'feet').map((c) => [c.at, c.role])).toEqual([
      [24, undefined],
      [96, 'rows'],
    ])
    expect(next.cues.filter((c) => c.layer === 'arms')).toHaveLength(1)
    const back = putLine(
      next,
      p,
      'feet',
      lineOf(next, p, 'feet').map((c) => ({ ...c, role: '' })),
      ids(),
    )
    expect(back.cues.some((c) => 'role' in c)).toBe(false)
  })
  it('stretch a cue, and replace words', () => {
    const r = page(1, cuesOf('1 step R; 2 step back L; 3 touch'))
    const id = r.cues[0]?.id ?? ''
    expect(lengthenCue(r, id, 24).cues[0]?.length).toBe(48)
    expect(lengthenCue(r, id, -100).cues[0]?.length).toBe(1)
    const moves = (...[find, put, whole]: [string, string, boolean]) =>
      replaceWords(r, find, put, whole).cues.map((c) => c.move)
    expect(moves('STEP', 'walk', false)).toEqual(['walk', 'walk back', 'touch'])
    expect(moves('step', 'walk', true)).toEqual(['walk', 'step back', 'touch'])
    expect(replaceWords(r, 'step', '', true)).toBe(r)
    expect(replaceWords(r, '(', 'x', false)).toBe(r)
  })
})

describe('turns', () => {
  const cue = (move: string, what: Partial<Cue> = {}): Cue => ({
    ...{ id: 'c', at: 0, length: 24, layer: 'feet', move, side: 'none', call: '', ...what },
  })
  const turn = (move: string, what: Partial<Cue> = {}) => turnOf(cue(move, what), book)
  // Plain arithmetic: an eighth of a full turn is 45 degrees.
  it.each([
    ['turns left 1/4', { to: 'left', eighths: 2 }],
    ['turning right ½', { to: 'right', eighths: 4 }],
    ['1.5 turns right', { to: 'right', eighths: 12 }],
    ['1½ turns left', { to: 'left', eighths: 12 }],
    ['1 1/2 spins left', { to: 'left', eighths: 12 }],
    ['double turn left', { to: 'left', eighths: 16 }],
    ['spin 270° right', { to: 'right', eighths: 6 }],
  ])('“%s” is read', (move, expected) => {
    expect(turn(move)).toEqual(expected)
  })
  it.each(['turning left', 'turns', 'turned away', '1/3 turn left', 'spin 100° right'])(
    '“%s” turns, but nobody knows how far',
    (move) => {
      expect(turn(move)).toBe('unknown')
    },
  )
  it('what only sounds like one is none', () => {
    for (const move of ['return', 'turnout', 'upturned palms']) expect(turn(move)).toBeNull()
  })
  it('“L’arabesque” names no side', () => {
    const r = page(1, [cue("L'arabesque", { side: 'right' }), cue('L’attitude', { at: 48, side: 'right' })])
    expect(found(r).filter((f) => f.kind === 'side')).toEqual([])
  })
  it('of a move in the list go the other way in a repeat to the other side, also when the words name none', () => {
    const own = moveBook([
      ...STARTING_MOVES,
      { ...namedMove('w', 'whirl'), step: 'turn', turn: { to: 'left', eighths: 2 } },
    ])
    const r = setRepeat(
      page(2, cuesOf('1 whirl; 3 pivot ½ left')),
      { id: 'r', to: { from: 192, to: 384 }, from: 0, mirrored: true },
      ids(),
    )
    const turns = danced(r).map((c) => followBody([c], own).end.facing)
    // From the front: a quarter to the left is the left wall (6), to the right the right one (2); half is the back.
    expect(turns).toEqual([6, 4, 2, 4])
    // The same where it is written out, and twice to the other side is as it was.
    const all = { from: 0, to: 192, layers: ['feet' as const] }
    const turned = mirrorMarked(r, all, ids())
    expect(followBody([turned.cues[0] as Cue], own).end.facing).toBe(2)
    expect(mirrorMarked(turned, all, ids()).cues).toEqual(r.cues)
  })
})

describe('the move list', () => {
  it('names a move by all its words or the longest beginning', () => {
    expect(moveNamed('Pivot ½ left', book)?.turn).toEqual({ to: 'left', eighths: 4 })
    expect(moveNamed('walk back', book)?.name).toBe('walk')
    expect(moveNamed('pas de bourrée, quick', book)?.step).toBe('pas de bourrée')
    expect(moveNamed('walking', book)).toBeNull()
  })
  it('offers what a person may mean', () => {
    expect(
      movesLike('pi', STARTING_MOVES)
        .map((m) => m.name)
        .slice(0, 2),
    ).toEqual(['pivot', 'pirouette'])
    expect(movesLike('roll', STARTING_MOVES).map((m) => m.name)).toContain('body roll')
    expect(movesLike(' ', STARTING_MOVES)).toEqual([])
  })
  it('has a caution wherever one is commonly given', () => {
    for (const name of ['jump', 'kick', 'head roll', 'back bend', 'pirouette', 'kneel'])
      expect(STARTING_MOVES.find((m) => m.name === name)?.caution).toBeTruthy()
  })
})
