/* The demo song: synthesised from nothing, the same bytes every time. Invented music, invented names. */
import { DEMO_RATE, type Kit, makeKit } from './sounds'

export const DEMO_TEMPO = 108
const BEAT = 60 / DEMO_TEMPO
/** Silence before the first beat, in seconds. */
const LEAD_IN = 0.62

type Kind = 'intro' | 'verse' | 'pre-chorus' | 'chorus' | 'break' | 'outro'

interface Part {
  kind: Kind
  letter: string
  /** Phrase lengths in counts. */
  phrases: number[]
}

/** The page as it should be heard: the spare 4 stands after the second pre-chorus. */
export const DEMO_PARTS: readonly Part[] = [
  { kind: 'intro', letter: 'A', phrases: [8, 8] },
  { kind: 'verse', letter: 'B', phrases: [8, 8, 8, 8] },
  { kind: 'pre-chorus', letter: 'C', phrases: [8, 8] },
  { kind: 'chorus', letter: 'D', phrases: [8, 8, 8, 8] },
  { kind: 'verse', letter: 'B', phrases: [8, 8, 8, 8] },
  { kind: 'pre-chorus', letter: 'C', phrases: [8, 8, 4] },
  { kind: 'chorus', letter: 'D', phrases: [8, 8, 8, 8] },
  { kind: 'break', letter: 'E', phrases: [8, 8] },
  { kind: 'outro', letter: 'F', phrases: [8, 8] },
]

/** What is true of the song: every beat in seconds, and the page laid over it. */
export interface DemoTruth {
  tempo: number
  duration: number
  beats: number[]
  /** Beat index where each phrase begins. */
  phrases: { beat: number; length: number }[]
  sections: { kind: Kind; letter: string; beat: number }[]
}

const counts = DEMO_PARTS.reduce((n, p) => n + p.phrases.reduce((a, b) => a + b, 0), 0)

/** The true grid, phrases and sections, worked out from the same plan the sound is made from. */
export function demoTruth(): DemoTruth {
  const phrases: DemoTruth['phrases'] = []
  const sections: DemoTruth['sections'] = []
  let beat = 0
  for (const part of DEMO_PARTS) {
    sections.push({ kind: part.kind, letter: part.letter, beat })
    for (const length of part.phrases) {
      phrases.push({ beat, length })
      beat += length
    }
  }
  return {
    tempo: DEMO_TEMPO,
    duration: LEAD_IN + counts * BEAT + 2,
    beats: Array.from({ length: counts }, (_, i) => LEAD_IN + i * BEAT),
    phrases,
    sections,
  }
}

/** Chord roots as MIDI notes with their third and fifth, two bars each eight. */
const CHORDS: Record<Kind, number[][]> = {
  intro: [
    [57, 60, 64],
    [53, 57, 60],
  ],
  verse: [
    [57, 60, 64],
    [53, 57, 60],
    [48, 52, 55],
    [55, 59, 62],
  ],
  'pre-chorus': [
    [50, 53, 57],
    [52, 55, 59],
    [53, 57, 60],
    [55, 59, 62],
  ],
  chorus: [
    [48, 52, 55],
    [55, 59, 62],
    [57, 60, 64],
    [53, 57, 60],
  ],
  break: [
    [57, 60, 64],
    [57, 60, 64],
  ],
  outro: [
    [53, 57, 60],
    [48, 52, 55],
  ],
}

/** Lead lines in half counts over two eights: scale steps above the chord root, null is a rest. */
const LEADS: Partial<Record<Kind, (number | null)[]>> = {
  verse: [0, null, 3, null, 7, null, 3, 5, null, 3, null, 0, null, null, 2, null],
  'pre-chorus': [0, 2, 3, null, 5, null, 7, null, 8, null, 7, null, 5, null, 3, 2],
  chorus: [12, null, 12, 11, 7, null, null, 7, 9, null, 7, 4, 5, null, 7, null],
  outro: [12, null, null, null, 7, null, null, null, 4, null, null, null, 0, null, null, null],
}

interface Stage {
  kit: Kit
  at: (beat: number) => number
}

function playDrums(
  { kit, at }: Stage,
  kind: Kind,
  beat: number,
  within: number,
  phrase: number,
  last: boolean,
) {
  const inBar = within % 4
  if (kind === 'break') {
    if (within % 8 === 0) kit.kick(at(beat), 0.8)
    if (inBar === 1 || inBar === 3) kit.clap(at(beat), 0.4)
    return
  }
  if (kind !== 'intro' || phrase > 0) {
    if (inBar === 0 || (kind === 'chorus' && inBar === 2)) kit.kick(at(beat), 1)
    if (kind !== 'intro' && inBar === 2) kit.kick(at(beat + 0.5), 0.7)
    if (inBar === 1 || inBar === 3) kit.snare(at(beat), kind === 'intro' ? 0.4 : 0.8)
  }
  const hat = kind === 'chorus' ? 0.5 : 0.35
  kit.hat(at(beat), hat)
  kit.hat(at(beat + 0.5), hat * 0.7)
  if (last && within % 8 >= 6) for (const q of [0, 0.25, 0.5, 0.75]) kit.snare(at(beat + q), 0.25 + q * 0.4)
}

function playHarmony({ kit, at }: Stage, kind: Kind, beat: number, within: number, phrase: number) {
  const chords = CHORDS[kind]
  const chord = chords[(phrase * 2 + (within >= 4 ? 1 : 0)) % chords.length] as number[]
  const root = chord[0] as number
  if (within % 4 === 0) kit.pad(at(beat), 4 * BEAT, chord, kind === 'chorus' ? 0.24 : 0.16)
  if (kind !== 'break' && kind !== 'intro') {
    const pattern = kind === 'chorus' ? [0, 0.5] : within % 2 === 0 ? [0] : [0, 0.5]
    for (const half of pattern)
      kit.bass(at(beat + half), BEAT * 0.45, root - 24 + (half && within % 4 === 3 ? 7 : 0), 0.5)
  }
  const lead = LEADS[kind]
  for (const half of [0, 1]) {
    const step = lead?.[(within * 2 + half) % 16]
    if (step !== undefined && step !== null) kit.lead(at(beat + half / 2), BEAT * 0.4, root + 12 + step, 0.22)
  }
}

let rendered: ReturnType<Kit['mixdown']> | undefined

/**
 * The demo song, rendered once a process.
 * @returns two channels at 44.1 kHz, -1..1, about two minutes, the caller's own
 */
export function renderDemoSong(): { left: Float32Array; right: Float32Array; sampleRate: number } {
  rendered ??= render()
  return { left: rendered.left.slice(), right: rendered.right.slice(), sampleRate: DEMO_RATE }
}

function render(): ReturnType<Kit['mixdown']> {
  const truth = demoTruth()
  const kit = makeKit(Math.ceil(truth.duration * DEMO_RATE))
  const stage: Stage = { kit, at: (beat) => LEAD_IN + beat * BEAT }
  let beat = 0
  DEMO_PARTS.forEach((part, index) => {
    const before = DEMO_PARTS[index + 1]?.kind === 'chorus'
    part.phrases.forEach((length, phrase) => {
      const last = phrase === part.phrases.length - 1
      for (let within = 0; within < length; within++, beat++) {
        // Two silent beats lead into each chorus.
        if (before && last && within >= length - 2) continue
        if (phrase === 0 && within === 0 && part.kind !== 'intro')
          kit.crash(stage.at(beat), part.kind === 'break' ? 0.3 : 0.5)
        playDrums(stage, part.kind, beat, within, phrase, last && !before)
        playHarmony(stage, part.kind, beat, within, phrase)
      }
    })
  })
  return kit.mixdown()
}
