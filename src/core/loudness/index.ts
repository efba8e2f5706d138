export {
  balanceOf,
  factorsOf,
  LOUD,
  levelSaid,
  loudnessOfMix,
  STEPS_BACK,
  stepBackLevel,
  USUAL_STEP_BACK,
  USUAL_VOLUMES,
  type Volumes,
} from './levels'
export { CEILING, Limiter, limiterDelay, PieceLimiter } from './limiter'
export { energyPieces, type Lufs, loudnessOf, loudnessOfPieces, PIECE } from './loudness'
export { truePeakOf } from './peaks'
export { joinSaid, levelAlong, type Said, stepsBack, type Toward } from './step-back'
export { weightingAt } from './weighting'
