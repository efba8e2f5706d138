import { asDanced, callsOf } from '../choreo'
import { type DrillTimeline, drillTimeline, firstLeg, type Leg, leadWordsOf, legAfter } from '../drill'
import {
  type CalledVoice,
  calledVoices,
  cuesIn,
  danced,
  ofPass,
  placePhrases,
  type Routine,
} from '../routine'
import type { Ratio, Seconds, Times } from '../time'
import type { Contents } from './contents'

/** What is called in a practice sound: numbers, the moves, one's own voice, less and less, or nothing. */
export const SOUND_CALLS = ['numbers', 'words', 'own', 'fading', 'none'] as const
export type SoundCalls = (typeof SOUND_CALLS)[number]

/** How a practice sound is made. */
export interface SoundWish {
  /** One after the other; each is a rung of the ladder. */
  speeds: readonly Ratio[]
  /** How often at each speed. */
  times: number
  /** Counts counted in before each repetition. */
  countIn: number
  calls: SoundCalls
  /** The song is heard; counts alone otherwise. */
  song: boolean
  /** The speed is said before each rung. */
  announced: boolean
}

export const USUAL_SOUND: SoundWish = {
  ...{ speeds: [0.6, 0.75, 0.9, 1], times: 2, countIn: 4, calls: 'words', song: false, announced: true },
}

/** A practice sound laid out in time. */
export interface SoundPlan {
  legs: Leg[]
  /** What is said before a rung, and when. */
  announced: { at: Seconds; words: string }[]
  /** Where each rung begins, with its name. */
  chapters: { at: Seconds; name: string }[]
  /** Words that are called or said. */
  words: string[]
  recordings: string[]
  seconds: Seconds
}

/** Longest sound that is made at once: half an hour is more than anybody practises without a pause. */
export const LONGEST_SOUND: Seconds = 30 * 60
/** Silence before the first sound, between two rungs, and at the end. */
const [BEFORE, BETWEEN, AFTER]: [Seconds, Seconds, Seconds] = [0.5, 1, 0.8]
/** Saying a speed takes so long. */
const SAID: Seconds = 1.8

/** Calls fade in four steps: words, their first words, numbers, nothing. */
const FADES = ['words', 'first', 'numbers', 'none'] as const
type Called = Exclude<SoundCalls, 'fading'> | (typeof FADES)[number]

/** What is called in the k-th repetition of n. */
export function calledIn(calls: SoundCalls, k: number, n: number): Called {
  if (calls !== 'fading') return calls
  return FADES[Math.min(FADES.length - 1, Math.floor((k / Math.max(1, n)) * FADES.length))] ?? 'none'
}

/** Lays a practice sound out: every click and every stress stands where it is heard in the file. */
export function soundPlan(routine: Routine, times: Times, contents: Contents, wish: SoundWish): SoundPlan {
  const shown = ofPass(asDanced(danced(routine), contents.role, contents.version), contents.pass)
  const cues = cuesIn(shown, contents.stretch)
  const placed = placePhrases(routine)
  const voices = calledVoices(routine)
  const n = wish.speeds.length * wish.times
  const out: SoundPlan = {
    ...{ legs: [], announced: [], chapters: [], words: [], recordings: [], seconds: BEFORE },
  }
  const lay = (speed: Ratio, called: Called): DrillTimeline => {
    const said = callsOf(
      {
        called: called === 'words' || called === 'first' ? 'words' : 'numbers',
        calledAhead: routine.calledAhead,
      },
      cues,
      routine.marks,
      times,
      placed,
      contents.mirrored,
    )
    if (called === 'first')
      for (const [at, call] of said.words)
        said.words.set(at, { ...call, word: call.word.split(/[\s,]+/)[0] ?? '' })
    const heard: readonly CalledVoice[] = called === 'own' ? voices : []
    return drillTimeline(
      {
        ...{ times, placed, ...contents.stretch, cues: cues.map((c) => c.at) },
        words: said.words,
        wordsOnly: called === 'none' || said.wordsOnly,
        voices: heard,
        leadWords: leadWordsOf(routine.leadWords),
      },
      speed,
      wish.countIn,
    )
  }
  let k = 0
  let last: Leg | null = null
  for (const [rung, speed] of wish.speeds.entries()) {
    let at: Seconds = last ? last.start + last.timeline.body + BETWEEN : BEFORE
    const name = `${Math.round(speed * 100)} percent`
    out.chapters.push({ at, name: name.replace(' percent', ' %') })
    if (wish.announced) {
      out.announced.push({ at, words: name })
      at += SAID
    }
    for (let i = 0; i < wish.times; i++, k++) {
      const timeline = lay(speed, calledIn(wish.calls, k, n))
      last = i === 0 || !last ? firstLeg(timeline, at) : legAfter(last, timeline, true)
      out.legs.push({ ...last, k })
    }
    if (rung === wish.speeds.length - 1 && last) out.seconds = last.start + last.timeline.body + AFTER
  }
  const events = out.legs.flatMap((l) => [...l.timeline.countIn, ...l.timeline.counts])
  out.words = [...new Set([...events.map((e) => e.call), ...out.announced.map((a) => a.words)])].filter(
    Boolean,
  )
  out.recordings = [...new Set(out.legs.flatMap((l) => l.timeline.said.map((s) => s.piece.recording)))]
  return out
}
