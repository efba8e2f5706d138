import type { Hearing, Peaks } from '@/core/hear'

/** What the page sends. */
export interface HearRequest {
  channels: Float32Array[]
  sampleRate: number
}

/** What the page gets back, in this order: any number of progress messages, then one of the others. */
export type HearReply =
  | { kind: 'progress'; share: number }
  | { kind: 'heard'; hearing: Hearing; peaks: Peaks }
  | { kind: 'failed'; message: string }
