export { HEARING_VERSION, type Hearing, HearingSchema, type Peaks } from './hearing'
export { downbeats, eights, listen } from './listen'
