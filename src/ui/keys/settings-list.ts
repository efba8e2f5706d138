import type { StationName } from './table'

/** Settings by name, what they are for, and the station they stand on: for finding them. */
export const SETTINGS: readonly { name: string; tip: string; station: StationName }[] = [
  {
    name: 'Counts of a phrase, other metres',
    tip: 'Eights, sixes, threes, tens: everywhere, from here, in a section',
    station: 'count',
  },
  { name: 'Names of the routine and who sings', tip: 'What it is called, and the credit', station: 'count' },
  { name: 'Dance begins, dance ends', tip: 'The excerpt of the song that is danced', station: 'count' },
  { name: 'Hear it anew', tip: 'The song once more, with the newest hearing', station: 'count' },
  {
    name: 'What belongs together: pick-up, resolving 1',
    tip: 'The 8& before, the 1 after; here or everywhere',
    station: 'cue',
  },
  { name: 'Least time between two actions', tip: 'What is too fast for your learners', station: 'cue' },
  {
    name: 'Who stands where, formations',
    tip: 'Dancers on a plan of the floor, count by count',
    station: 'cue',
  },
  { name: 'Room, camera, how far steps go', tip: 'Does the dance fit, where to begin', station: 'cue' },
  { name: 'Roles and versions', tip: 'Who dances a cue, and in which version', station: 'cue' },
  {
    name: 'Move list',
    tip: 'Your own moves: what they do, need, and where they are learned',
    station: 'cue',
  },
  {
    name: 'Combinations, to lay on this song',
    tip: 'Moves written on counts, without a song',
    station: 'cue',
  },
  { name: 'Minutes there are', tip: 'How long the lesson is', station: 'teach' },
  {
    name: 'Learners: children, beginners, with practice',
    tip: 'Talk, pace and the size of pieces follow',
    station: 'teach',
  },
  { name: 'As I teach', tip: 'Plans with what your own lessons took', station: 'teach' },
  {
    name: 'At once, order, danced again',
    tip: 'How a lesson is taught: pieces, feet or arms first, reviews',
    station: 'teach',
  },
  {
    name: 'Ladder at the end, preview',
    tip: 'All of it slow, medium, with the song, to the back; shown first',
    station: 'teach',
  },
  { name: 'Class, how many come', tip: 'Whose log and estimates are used', station: 'teach' },
  { name: 'Course with its dates', tip: 'Lessons over weeks, for any calendar', station: 'teach' },
  { name: 'Speed, count-in, what sounds', tip: 'Of a drill of your own', station: 'floor' },
  {
    name: 'Camera or figure beside the counts',
    tip: 'A mirror, the repetition before, a drawn dancer',
    station: 'floor',
  },
  {
    name: 'Keep what the camera sees',
    tip: 'The last repetition of each drill, as a film of the dance',
    station: 'floor',
  },
  { name: 'Plan of the floor beside the counts', tip: 'One’s own place now and next', station: 'floor' },
  { name: 'Keys of a pedal', tip: 'Learned by pressing them', station: 'floor' },
  { name: 'Count in your own voice', tip: 'Your own 1 to 8, and', station: 'floor' },
  { name: 'Timing: early or late', tip: 'Tap, or clap into the microphone', station: 'floor' },
  { name: 'Readiness, practice, lessons held', tip: 'What sits at which speed', station: 'log' },
  { name: 'Cue sheet, PDF, wall sheet', tip: 'Paper, size, sides, of whom', station: 'hand-out' },
  {
    name: 'Practice page for learners',
    tip: 'One file, with their own copy of the song',
    station: 'hand-out',
  },
  { name: 'Practice sound', tip: 'A ladder of speeds, with calls', station: 'hand-out' },
  { name: 'Captions, text to paste, spreadsheet', tip: 'For films and other programs', station: 'hand-out' },
]
