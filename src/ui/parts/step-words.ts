import { type LessonStep, type PlacedPhrase, passWords, stretchName } from '@/core/routine'
import { desk, tintOf } from '../theme/tokens'

/** Kinds of steps in the order of the legend, each with a colour and a sign, so that colour is never alone. */
export const KIND_LOOKS: Record<LessonStep['kind'], { colour: string; sign: string }> = {
  'warm-up': { colour: desk.faint, sign: '~' },
  show: { colour: tintOf('E').ink, sign: '◎' },
  'break down': { colour: tintOf('C').ink, sign: '…' },
  drill: { colour: desk.azalea, sign: '●' },
  join: { colour: tintOf('F').ink, sign: '+' },
  checkpoint: { colour: desk.leaf, sign: '✓' },
  run: { colour: desk.ink, sign: '▶' },
  rest: { colour: desk.faint, sign: '–' },
  'cool-down': { colour: desk.faint, sign: '~' },
}

/** "Chorus, eight 1" or "Chorus, eight 1, 3 to 8"; '' for steps without dancing. */
export function rangeOfStep({ stretch }: LessonStep, placed: readonly PlacedPhrase[]): string {
  return stretch ? stretchName(placed, stretch) : ''
}

const SOUNDS = { counts: 'with counts', music: 'with the song', both: 'with counts and the song' } as const

/** How a step says what leads in; '' where that is as usual. */
const LED_IN: Record<LessonStep['leadIn'], string> = {
  clicks: '',
  song: 'the song leads in',
  '8': 'the song leads in for an eight',
  '16': 'the song leads in for two eights',
  '32': 'the song leads in for four eights',
  beginning: 'from the song’s beginning',
}

/** What of a step is not as usual: its pass, version, way, calls and lead-in. */
function besides(step: LessonStep): string[] {
  return [
    passWords(step.pass),
    step.version,
    step.how === 'small' || step.how === 'to the back'
      ? step.how
      : step.how === 'walk'
        ? 'walk it: the places alone'
        : step.how === 'full out' && step.kind !== 'run'
          ? 'full out'
          : '',
    step.calls === 'as set' ? '' : step.calls === 'none' ? 'nothing called' : `${step.calls} called`,
    LED_IN[step.leadIn],
  ].filter(Boolean)
}

/** How a step is danced: "feet alone, 60 %, with counts, 3 times". */
export function howOfStep(step: LessonStep): string {
  const parts: string[] = []
  if (step.runUp) parts.push(`from ${step.runUp} counts before`)
  parts.push(...besides(step))
  if (step.repetitions)
    parts.push(
      `${Math.round(step.speed * 100)} %`,
      SOUNDS[step.sound],
      step.repetitions === 1 ? 'once' : `${step.repetitions} times`,
    )
  return parts.join(', ')
}

/** What is done and how, beside where and how fast: "Drill, feet alone, with counts". */
export function whatOfStep(step: LessonStep): string {
  const parts = [`${step.kind[0]?.toUpperCase()}${step.kind.slice(1)}`]
  if (step.runUp) parts.push(`from ${step.runUp} counts before`)
  parts.push(...besides(step))
  if (step.repetitions) parts.push(SOUNDS[step.sound])
  return parts.join(', ')
}

/** What a step is, in one line: "Drill: Chorus, eight 1, feet alone, 60 %, with counts, 3 times". */
export const stepWords = (step: LessonStep, placed: readonly PlacedPhrase[]): string =>
  kindAndWhat(step, placed, howOfStep(step))

/** What a step is called, however often it is danced: "Drill: Chorus, eight 1, feet alone, 60 %". */
export const stepName = (step: LessonStep, placed: readonly PlacedPhrase[]): string =>
  kindAndWhat(
    step,
    placed,
    [...besides(step), step.repetitions > 0 && `${Math.round(step.speed * 100)} %`]
      .filter(Boolean)
      .join(', '),
  )

/** "Drill: Chorus, eight 1" and how. */
function kindAndWhat(step: LessonStep, placed: readonly PlacedPhrase[], how: string): string {
  const kind = `${step.kind[0]?.toUpperCase()}${step.kind.slice(1)}`
  if (!step.stretch) return kind
  return `${kind}: ${[rangeOfStep(step, placed), how].filter(Boolean).join(', ')}`
}

/** Minutes and seconds for people: "1:30". */
export function minutesText(seconds: number): string {
  const whole = Math.round(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
