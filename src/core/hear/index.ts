export { busiestBeat } from './busiest'
export { HEARING_VERSION, type Hearing, HearingSchema, onsetOf, type Peaks } from './hearing'
export { downbeats, eights, listen } from './listen'
export { barsOf, overviewOf, packPeaks, unpackPeaks } from './pictures'
