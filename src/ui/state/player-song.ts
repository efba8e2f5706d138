import { decodeSong, fetchSong } from '@/audio/song'
import { wordsOf } from '@/core/formats/said'
import { type SongMeasure, unpackMeasure } from '@/core/stretch'
import { measureInWorker, measureOf } from './measure'

/** How far the song is from being playable. */
export type Loading =
  | { kind: 'idle' }
  | { kind: 'fetching'; share: number }
  | { kind: 'decoding' }
  | { kind: 'ready' }
  | { kind: 'problem'; why: string }

/** Where what was measured is kept, packed; null while nothing is. */
export interface KeptMeasure {
  get: () => Promise<Uint8Array | null>
  put: (packed: Uint8Array) => Promise<unknown>
}

/** The sound of the open song, fetched and decoded once. */
export class PlayerSong {
  private song: Promise<AudioBuffer> | null = null
  private found: Promise<SongMeasure> | null = null

  constructor(
    private readonly url: string,
    private readonly tell: (loading: Loading) => void,
    private readonly kept: KeptMeasure,
  ) {}

  /** The decoded song; asked again after a failure, it tries again. */
  audio(): Promise<AudioBuffer> {
    this.song ??= this.load().catch((error: unknown) => {
      this.song = null
      this.tell({ kind: 'problem', why: wordsOf(error) })
      throw error
    })
    return this.song
  }

  /** What playing it needs to know of it, found once in a worker, and kept. */
  measure(): Promise<SongMeasure> {
    this.found ??= this.measured()
    // Whoever asks is told; asked again after a failure, it tries again.
    this.found.catch(() => {
      this.found = null
    })
    return this.found
  }

  private async measured(): Promise<SongMeasure> {
    const kept = await this.kept.get().catch(() => null)
    const known = kept && unpackMeasure(kept)
    if (known) return known
    const packed = await measureInWorker(await this.audio())
    // Not kept, it is found again next time.
    this.kept.put(packed).catch(() => {})
    return measureOf(packed)
  }

  private async load(): Promise<AudioBuffer> {
    this.tell({ kind: 'fetching', share: 0 })
    const bytes = await fetchSong(this.url, (share) => this.tell({ kind: 'fetching', share }))
    this.tell({ kind: 'decoding' })
    const buffer = await decodeSong(bytes)
    this.tell({ kind: 'ready' })
    return buffer
  }
}
