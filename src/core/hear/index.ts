/* What pages know of hearing. The program that hears, with its weights, is asked for by its own file: ./listen. */
export { busiestBeat } from './busiest'
export { countsAlone } from './counts-alone'
export { HEARING_VERSION, type Hearing, HearingSchema, onsetOf, type Peaks } from './hearing'
export { barsOf, overviewOf, packPeaks, unpackPeaks } from './pictures'
export { FRAME_RATE, SpectrumMaker } from './spectrum'
export { type Doubt, doubtAt, songDoubt, wordsFor, wordsForDoubt } from './sure'
