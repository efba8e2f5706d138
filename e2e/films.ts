/* Films for the tests, made on the spot in a page of the app: a drawn dancer, in the corner of each picture its number in black and
   white, and a sound that is known exactly. */
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'

const BUNNY = readFileSync('node_modules/mediabunny/dist/bundles/mediabunny.cjs', 'utf8')

/** Bits of a picture's number, and the size of one in the picture. */
export const [BITS, BIT] = [12, 12]
export const FRAMES = 30

export interface FilmWish {
  /** A WAV file: the film is as long. */
  sound: Uint8Array
  format?: 'webm' | 'mp4'
  width?: number
  height?: number
  /** Colour of the ground, to tell films apart. */
  ground?: string
}

/** Makes a film. @returns its bytes */
export async function makeFilm(page: Page, wish: FilmWish): Promise<Buffer> {
  const { sound, format = 'webm', width = 320, height = 180, ground = '#3a3038' } = wish
  const wav = Buffer.from(sound).toString('base64')
  const made = await page.evaluate(
    async ({ bunnySource, wav, format, width, height, ground, bits, bit, frames }) => {
      const scope = { exports: {} as Record<string, never> }
      new Function('module', 'exports', bunnySource)(scope, scope.exports)
      const bunny = scope.exports as unknown as typeof import('mediabunny')
      const bytes = Uint8Array.from(atob(wav), (c) => c.charCodeAt(0))
      const audio = await new OfflineAudioContext(1, 1, 48_000).decodeAudioData(bytes.buffer)
      const canvas = new OffscreenCanvas(width, height)
      const pen = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D
      const target = new bunny.BufferTarget()
      const output = new bunny.Output({
        format: format === 'mp4' ? new bunny.Mp4OutputFormat() : new bunny.WebMOutputFormat(),
        target,
      })
      const video = new bunny.CanvasSource(canvas, {
        codec: format === 'mp4' ? 'avc' : 'vp8',
        bitrate: 400_000,
        keyFrameInterval: 1,
      })
      const voice = new bunny.AudioBufferSource({ codec: 'opus', bitrate: 96_000 })
      output.addVideoTrack(video, { frameRate: frames })
      output.addAudioTrack(voice)
      await output.start()
      const sounding = voice.add(audio)
      for (let n = 0; n < Math.floor(audio.duration * frames); n++) {
        pen.fillStyle = ground
        pen.fillRect(0, 0, width, height)
        const swing = Math.sin((n / frames) * Math.PI)
        pen.strokeStyle = '#f8dbe6'
        pen.lineWidth = 10
        pen.beginPath()
        pen.arc(width / 2, height * 0.3, 12, 0, 7)
        pen.moveTo(width / 2, height * 0.4)
        pen.lineTo(width / 2, height * 0.7)
        pen.lineTo(width / 2 + 40 * swing, height)
        pen.moveTo(width / 2 - 60, height * (0.5 - 0.15 * swing))
        pen.lineTo(width / 2 + 60, height * (0.5 + 0.15 * swing))
        pen.stroke()
        for (let i = 0; i < bits; i++) {
          pen.fillStyle = (n >> i) & 1 ? '#fff' : '#000'
          pen.fillRect(i * bit, 0, bit, bit)
        }
        await video.add(n / frames, 1 / frames)
      }
      await sounding
      await output.finalize()
      const out = new Uint8Array(target.buffer as ArrayBuffer)
      let text = ''
      for (let i = 0; i < out.length; i += 8192) text += String.fromCharCode(...out.subarray(i, i + 8192))
      return btoa(text)
    },
    { bunnySource: BUNNY, wav, format, width, height, ground, bits: BITS, bit: BIT, frames: FRAMES },
  )
  return Buffer.from(made, 'base64')
}

/** The number of the picture that a film of the page shows, read from its pixels; null where none can be read. */
export function shownFrame(page: Page, which = 0): Promise<number | null> {
  return page.evaluate(
    ({ which, bits, bit }) => {
      const film = document.querySelectorAll('[data-testid=film]')[which]
      const video = [...(film?.querySelectorAll('video') ?? [])].find((v) => v.style.visibility !== 'hidden')
      if (!video?.videoWidth) return null
      const canvas = new OffscreenCanvas(bits * bit, bit)
      const pen = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D
      pen.drawImage(video, 0, 0, bits * bit, bit, 0, 0, bits * bit, bit)
      let n = 0
      for (let i = 0; i < bits; i++) {
        const [light] = pen.getImageData(i * bit + (bit >> 1), bit >> 1, 1, 1).data
        if ((light ?? 0) > 128) n |= 1 << i
      }
      return n
    },
    { which, bits: BITS, bit: BIT },
  )
}
