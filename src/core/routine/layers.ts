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

/** What of the body is danced in a drill: everything, or one part alone. */
export const PASSES = ['all', 'feet', 'arms'] as const
export type Pass = (typeof PASSES)[number]

/** The cues a pass dances: arms, all that is not arms, or everything. */
export function ofPass<T extends { layer: Layer }>(cues: readonly T[], pass: Pass = 'all'): T[] {
  return pass === 'all' ? [...cues] : cues.filter((c) => entry(c.layer).pass === pass)
}
