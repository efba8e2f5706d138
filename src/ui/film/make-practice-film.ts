import type { AudioCodec, InputVideoTrack, Output, VideoCodec } from 'mediabunny'
import { type FilmScene, filmMoment, placeInFilm } from '@/core/film'
import type { Film } from '@/core/routine'
import type { Seconds } from '@/core/time'
import { filmUrl } from '../state/film-file'
import { drawMoment } from './draw-moment'

/** Files a practice film is kept in. */
export const FILM_FILES = ['mp4', 'webm'] as const
export type FilmFileKind = (typeof FILM_FILES)[number]

/** What is to be seen: a film of the dance, the drawn figure, or the counts alone. */
export type FilmPicture = Film | 'figure' | 'counts'

export interface PracticeFilm {
  scene: FilmScene
  picture: FilmPicture
  /** Its sound, as a WAV file. */
  sound: Blob
  as: FilmFileKind
  height: number
  title: string
}

const FRAMES = 30
/** Bits a second of a picture 720 high; smaller ones take less. */
const BITS = 2_500_000
const TYPES: Record<FilmFileKind, string> = { mp4: 'video/mp4', webm: 'video/webm' }

/**
 * Makes a practice film, as fast as this machine goes.
 * @param told 0..1
 * @throws Error in words where this browser cannot; DOMException where it was stopped
 */
export async function makePracticeFilm(
  wish: PracticeFilm,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob> {
  const m = await import('mediabunny')
  const { as, height, scene } = wish
  const width = Math.round((height * 16) / 9 / 2) * 2
  const codec = await videoCodec(as, width, height)
  const canvas = new OffscreenCanvas(width, height)
  const pen = canvas.getContext('2d', { alpha: false })
  if (!pen) throw new Error('this browser cannot draw')
  const target = new m.BufferTarget()
  const output = new m.Output({
    format: as === 'mp4' ? new m.Mp4OutputFormat({ fastStart: 'in-memory' }) : new m.WebMOutputFormat(),
    target,
  })
  const pictures = new m.CanvasSource(canvas, {
    codec,
    bitrate: Math.round(BITS * (height / 720) ** 1.5),
    keyFrameInterval: 2,
  })
  output.addVideoTrack(pictures, { frameRate: FRAMES })
  output.setMetadataTags({ title: wish.title })
  const film = await openPicture(wish)
  try {
    await document.fonts.ready
    const sounding = await addSound(output, wish)
    await output.start()
    const all = Math.ceil(scene.plan.seconds * FRAMES)
    for (let n = 0; n < all; n++) {
      signal.throwIfAborted()
      const at = n / FRAMES
      // The sound goes along a little ahead, so that a player finds both side by side in the file.
      if (n % FRAMES === 0) await sounding.until(at + 1)
      const moment = filmMoment(scene, at)
      const seen = film && moment.song !== null ? await film.at(moment) : null
      drawMoment(pen, width, height, moment, {
        film: seen?.canvas ?? film?.last ?? null,
        size: film?.size ?? null,
        turned: film?.turned ?? false,
        figure: wish.picture === 'figure',
      })
      await pictures.add(at, 1 / FRAMES)
      if (n % 15 === 0) told(n / all)
    }
    await sounding.until(Number.POSITIVE_INFINITY)
    await output.finalize()
  } catch (error) {
    await output.cancel().catch(() => {})
    throw error
  } finally {
    await film?.close()
  }
  if (!target.buffer) throw new Error('the film came out empty')
  return new Blob([target.buffer], { type: TYPES[as] })
}

async function videoCodec(as: FilmFileKind, width: number, height: number): Promise<VideoCodec> {
  const m = await import('mediabunny')
  const codecs: VideoCodec[] = as === 'mp4' ? ['avc', 'vp9', 'av1'] : ['vp8', 'vp9', 'av1']
  const [codec] = await m.getEncodableVideoCodecs(codecs, { width, height })
  if (!codec) throw new Error(`this browser writes no films as ${as.toUpperCase()}: try the other file`)
  return codec
}

/** Puts the sound of a film into it, as far as is asked for. */
async function addSound(output: Output, { sound, as }: PracticeFilm) {
  const m = await import('mediabunny')
  // MP4 with AAC plays everywhere; where a browser cannot write it, MP3 does nearly.
  const codecs: AudioCodec[] = as === 'mp4' ? ['aac'] : ['opus']
  let [codec] = await m.getEncodableAudioCodecs(codecs)
  if (!codec && as === 'mp4') {
    const mp3 = await import('@mediabunny/mp3-encoder')
    mp3.registerMp3Encoder()
    codec = 'mp3'
  }
  if (!codec) throw new Error('this browser writes no sound into films: try the other file')
  const source = new m.AudioSampleSource({ codec, bitrate: 128_000 })
  output.addAudioTrack(source)
  const input = new m.Input({ source: new m.BlobSource(sound), formats: [m.WAVE] })
  const track = await input.getPrimaryAudioTrack()
  if (!track) throw new Error('its sound was lost')
  const samples = new m.AudioSampleSink(track).samples()
  return {
    async until(at: Seconds): Promise<void> {
      for (let next = await samples.next(); !next.done; next = await samples.next()) {
        const { timestamp } = next.value
        await source.add(next.value)
        next.value.close()
        if (timestamp >= at) return
      }
    },
  }
}

/** The pictures of the film a practice film is made from; null where none is. */
async function openPicture({ picture, scene }: PracticeFilm) {
  if (typeof picture === 'string') return null
  const [m, { openFilm }] = await Promise.all([import('mediabunny'), import('@/decode/film')])
  const input = openFilm(new m.UrlSource(new URL(filmUrl(picture.file), location.href).href))
  const track = await input.getPrimaryVideoTrack()
  if (!track) throw new Error('there is no picture in the film')
  const size = { width: await track.getDisplayWidth(), height: await track.getDisplayHeight() }
  const reel = new Reel(track, (t) => new m.CanvasSink(t, { poolSize: 4 }))
  return {
    size,
    turned: scene.mirrored !== picture.mirrored,
    get last() {
      return reel.last
    },
    async at({
      song,
      speed,
      piece,
    }: {
      song: Seconds | null
      speed: number
      piece: { from: Seconds; to: Seconds }
    }) {
      const place = song === null ? null : placeInFilm(picture, song, speed, piece)
      return place ? reel.at(place.at) : null
    },
    async close() {
      await reel.close()
      input.dispose()
    },
  }
}

interface Wrapped {
  canvas: HTMLCanvasElement | OffscreenCanvas
  timestamp: Seconds
  duration: Seconds
}

/** Goes through a film picture by picture as long as that leads to what is asked for; else it begins there. */
class Reel {
  last: CanvasImageSource | null = null
  private running: AsyncGenerator<Wrapped, void> | null = null
  private here: Wrapped | null = null
  private coming: Wrapped | null = null
  private readonly sink: { canvases(from: Seconds): AsyncGenerator<Wrapped, void, unknown> }

  constructor(
    track: InputVideoTrack,
    open: (track: InputVideoTrack) => { canvases(from: Seconds): AsyncGenerator<Wrapped, void, unknown> },
  ) {
    this.sink = open(track)
  }

  async at(time: Seconds): Promise<Wrapped | null> {
    const { here } = this
    // Back, or far ahead: a leap.
    if (!this.running || !here || time < here.timestamp - 1e-3 || time > here.timestamp + 3) {
      await this.running?.return()
      this.running = this.sink.canvases(time) as AsyncGenerator<Wrapped, void>
      this.here = await this.pull()
      this.coming = await this.pull()
    }
    while (this.coming && this.coming.timestamp <= time + 1e-3) {
      this.here = this.coming
      this.coming = await this.pull()
    }
    if (this.here) this.last = this.here.canvas
    return this.here
  }

  async close(): Promise<void> {
    await this.running?.return()
  }

  private async pull(): Promise<Wrapped | null> {
    const next = await this.running?.next()
    return next && !next.done ? next.value : null
  }
}
