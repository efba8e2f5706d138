import { decodeSong, fetchSong } from '@/audio/song'
import { wordsOf } from '@/core/formats/said'
import type { Strokes } from '@/core/stretch'
import { strokesInWorker } from './strokes'

/** How far the song is from being playable. */
export type Loading =
  | { kind: 'idle' }
  | { kind: 'fetching'; share: number }
  | { kind: 'decoding' }
  | { kind: 'ready' }
  | { kind: 'problem'; why: string }

/** The sound of the open song, fetched and decoded once. */
export class PlayerSong {
  private song: Promise<AudioBuffer> | null = null
  private found: Promise<Strokes> | null = null

  constructor(
    private readonly url: string,
    private readonly tell: (loading: Loading) => void,
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

  /** Where its strokes lie, found once in a worker. */
  strokes(): Promise<Strokes> {
    this.found ??= this.audio().then((song) => strokesInWorker(song))
    // Whoever asks is told; asked again after a failure, it tries again.
    this.found.catch(() => {
      this.found = null
    })
    return this.found
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
