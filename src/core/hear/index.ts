export { type Hearing, HearingSchema } from './hearing'
export { downbeats, eights, listen } from './listen'
