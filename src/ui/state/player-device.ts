import { Conductor } from '@/audio/conductor'
import type { SongMeasure } from '@/core/stretch'

/** What a device is to know of the world around it. */
interface Around {
  song: () => Promise<AudioBuffer>
  measure: () => Promise<SongMeasure>
  /** Once, when the song is in it: what else is to be set. */
  ready: (conductor: Conductor) => Promise<void>
  /** It took the sound away: it changed, or the computer slept. */
  lost: () => void
}

/** The device that sounds, opened once; with the song in it once that is there. */
export class PlayerDevice {
  private device: Promise<Conductor> | null = null
  private conductor: Promise<Conductor> | null = null
  private withSong: Conductor | null = null
  private closed = false

  constructor(private readonly around: Around) {}

  /** The device with the song in it; null while it is not there. */
  get open(): Conductor | null {
    return this.withSong
  }

  /** Opens it within the key press or click that asked for sound; a song that cannot be had leaves it open for the next. */
  ready(): Promise<Conductor> {
    const song = this.around.song()
    // It may fail while the device is still being opened; it is told by whoever awaits it.
    song.catch(() => {})
    this.device ??= this.opened()
    const device = this.device
    this.conductor ??= device.then(async (c) => {
      await c.setSong(await song, this.around.measure())
      if (!this.closed) this.withSong = c
      await this.around.ready(c)
      return c
    })
    const conductor = this.conductor
    conductor.catch(() => {
      if (this.conductor === conductor) this.conductor = null
    })
    return conductor
  }

  private async opened(): Promise<Conductor> {
    try {
      const c = await Conductor.open()
      c.onInterrupted = this.around.lost
      if (this.closed) c.close()
      return c
    } catch (error) {
      this.device = null
      throw error
    }
  }

  /** Gives it back, also where it is only just being opened. */
  close(): void {
    this.closed = true
    this.device?.then(
      (c) => c.close(),
      () => {},
    )
    this.device = null
    this.conductor = null
    this.withSong = null
  }
}
