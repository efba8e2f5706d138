export { hashOf, tickOfHash } from './address'
export {
  COUNT_AT_FIRST,
  type CountEffect,
  type CountEvent,
  type CountState,
  type CountWork,
  firstPlace,
  otherWays,
  type Question,
  question,
  standsDrag,
  stepCount,
} from './count'
export type { CountSeen } from './count-seen'
export * from './cue'
export { cueOfFields, draftFor, readSide } from './cue-draft'
export {
  type LineGo,
  type LineState,
  leftBefore,
  leftLines,
  NO_LINE,
  type OpenLine,
  previewLine,
  readOpenLine,
  readSeveral,
} from './cue-line'
export { type CueEffect, whatToPaste } from './cue-work'
export * from './cursor'
export {
  type BesideCounts,
  type FloorPlace,
  type FloorStationEffect,
  type FloorStationEvent,
  type FloorWish,
  floorAtFirst,
  isAnnounced,
  isPlanned,
  litLine,
  nextAdded,
  nextOf,
  type Replay,
  stepFloor,
} from './floor'
export * from './hearer'
export {
  HITS_AT_FIRST,
  type HitsEvent,
  stepHits,
  unnamedCues,
} from './hits'
export type { ReadLine } from './line-reading'
export * from './lines'
export { isSeveralLines, MOST_PASTED, type PastedLine, type PastedLines } from './pasted-lines'
export {
  formationHere,
  PLACES_AT_FIRST,
  type PlacesEvent,
  type PlacesState,
  stepPlaces,
} from './places'
export { cameKey, decideSent } from './sent'
export { linesIn, nextLine, type SongWordsEvent, songWordsAtFirst, stepSongWords } from './song-words'
export {
  otherTapped,
  stepTapping,
  TAPPING_AT_FIRST,
  type TappingEvent,
  type TappingSeen,
  tapped,
} from './tapping'
export {
  chosenSteps,
  oneChosen,
  passesHere,
  planShown,
  stepTeach,
  TEACH_AT_FIRST,
  type TeachEvent,
  type TeachState,
} from './teach'
export {
  CLICKED,
  CLICKS,
  type Delay,
  type Measured,
  stepTiming,
  type TimingEffect,
  type TimingEvent,
  type TimingSeen,
  type TimingState,
  timingAtFirst,
  type Way,
} from './timing'
