/** One line of the sheet: what part of the body its cues are for. */
interface LayerEntry {
  name: string
  /** Its cues move the feet: weight is followed through them. */
  footed: boolean
  /** Its cues can turn the whole dancer. */
  turns: boolean
  /** Its left and its right do different things at one time: the two arms. */
  apart: boolean
  /** Drilled with this pass when the body is taken apart. */
  pass: 'feet' | 'arms'
}

/** The layers of the sheet, from the floor up. A layer is one line here; everything else reads it. */
const REGISTRY = [
  { name: 'feet', footed: true, turns: true, apart: false, pass: 'feet' },
  { name: 'arms', footed: false, turns: false, apart: true, pass: 'arms' },
  { name: 'body', footed: false, turns: true, apart: false, pass: 'feet' },
  { name: 'head', footed: false, turns: false, apart: false, pass: 'feet' },
  { name: 'travel', footed: true, turns: true, apart: false, pass: 'feet' },
  { name: 'whole', footed: true, turns: true, apart: false, pass: 'feet' },
] as const satisfies readonly LayerEntry[]

export type Layer = (typeof REGISTRY)[number]['name']

export const LAYERS: readonly [Layer, ...Layer[]] = ['feet', ...REGISTRY.slice(1).map((l) => l.name)]

const BY_NAME = new Map<Layer, LayerEntry>(REGISTRY.map((l) => [l.name, l]))
const entry = (layer: Layer): LayerEntry => BY_NAME.get(layer) ?? REGISTRY[0]
const ORDER = new Map<Layer, number>(REGISTRY.map((l, i) => [l.name, i]))

/** Place of a layer on the sheet, from 0 at the feet. */
export const layerOrder = (layer: Layer): number => ORDER.get(layer) ?? 0
/** True where cues of the layer move the feet. */
export const movesFeet = (layer: Layer): boolean => entry(layer).footed
/** True where cues of the layer can turn the whole dancer. */
export const canTurn = (layer: Layer): boolean => entry(layer).turns

/** True where what the left does and what the right does are two things, not one in the way of the other. */
export const sidesApart = (layer: Layer): boolean => entry(layer).apart

/** What a pass takes of the dance, by layer and side. */
interface PassEntry {
  name: string
  takes: (cue: { layer: Layer; side?: string | undefined }) => boolean
}

const arm = (side: 'left' | 'right') => (cue: { layer: Layer; side?: string | undefined }) =>
  cue.layer === 'arms' && (cue.side === undefined || cue.side !== (side === 'left' ? 'right' : 'left'))

/**
 * What of the body is danced in a drill: everything, or a part of it. `feet` is all that is not arms. `look` is danced whole:
 * what is watched is where the eyes go.
 */
const PASS_REGISTRY = [
  { name: 'all', takes: () => true },
  { name: 'feet', takes: (c) => entry(c.layer).pass === 'feet' },
  { name: 'arms', takes: (c) => entry(c.layer).pass === 'arms' },
  { name: 'right arm', takes: arm('right') },
  { name: 'left arm', takes: arm('left') },
  { name: 'body', takes: (c) => c.layer === 'body' || c.layer === 'whole' },
  { name: 'head', takes: (c) => c.layer === 'head' },
  { name: 'feet and arms', takes: (c) => c.layer === 'arms' || movesFeet(c.layer) },
  { name: 'look', takes: () => true },
] as const satisfies readonly PassEntry[]

export type Pass = (typeof PASS_REGISTRY)[number]['name']
export const PASSES: readonly [Pass, ...Pass[]] = ['all', ...PASS_REGISTRY.slice(1).map((p) => p.name)]
const PASS_BY_NAME = new Map<Pass, PassEntry>(PASS_REGISTRY.map((p) => [p.name, p]))

/** The cues a pass dances. */
export function ofPass<T extends { layer: Layer; side?: string | undefined }>(
  cues: readonly T[],
  pass: Pass = 'all',
): T[] {
  const takes = PASS_BY_NAME.get(pass)?.takes
  return takes ? cues.filter(takes) : [...cues]
}

/** "feet alone", "with a look to where the eyes go": a pass in words; '' for the whole body. */
export const passWords = (pass: Pass): string =>
  pass === 'all' ? '' : pass === 'look' ? 'watch where you look' : `${pass} alone`
