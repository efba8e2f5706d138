import * as v from 'valibot'
import { LIMITS } from './limits'

export const SIDES = ['none', 'left', 'right', 'both'] as const
/** What a move does to the weight; the compound ones are several steps (core/choreo/effects). */
export const STEPS = [
  'step',
  'touch',
  'tap',
  'kick',
  'together',
  'jump',
  'hop',
  'ball-change',
  'chassé',
  'grapevine',
  'pas de bourrée',
  'step-touch',
  'pivot',
  'turn',
  'hold',
  'open',
] as const
/** Where a step goes, seen from the dancer: eighths clockwise from where they face, then nowhere. */
export const WAYS = [
  'forward',
  'forward right',
  'right',
  'back right',
  'back',
  'back left',
  'left',
  'forward left',
  'on the spot',
] as const
export const LEVELS = ['high', 'middle', 'low', 'floor'] as const
export const CAUTIONS = ['knee', 'neck', 'back', 'jump', 'kick', 'turn', 'floor'] as const
/** Versions there are from the beginning; an instructor adds names of their own. What is held or free is so in every version. */
export const OPTIONS = ['base', 'easier', 'harder', 'hold', 'open'] as const
export const OptionName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1),
  v.maxLength(LIMITS.option),
  v.regex(/^[^\s"\\]+(?: [^\s"\\]+)*$/, 'A version’s name has no quotes in it.'),
)

/** A turn on the spot: which way, and how many eighths of a full one. */
export const Turn = v.object({
  to: v.picklist(['left', 'right']),
  eighths: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(32)),
})

export type Side = (typeof SIDES)[number]
export type StepEffect = (typeof STEPS)[number]
export type Turn = v.InferOutput<typeof Turn>
export type StepWay = (typeof WAYS)[number]
export type Level = (typeof LEVELS)[number]
export type Option = v.InferOutput<typeof OptionName>
