/** Seconds of audio or of clock time, as a real number. */
export type Seconds = number

/** Integer position or length on the count line: 24 per count, as MIDI timing clock has 24 per quarter note. */
export type Ticks = number

/** Beats per minute. */
export type Bpm = number

/** Speed of playback: 1 is full tempo, 0.75 is 75 %. */
export type Ratio = number

/** Counts per beat: 1 counts every beat, 1/2 counts half-time, 2 counts double-time. */
export type CountRate = 0.5 | 1 | 2
