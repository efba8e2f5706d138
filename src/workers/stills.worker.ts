/* Takes pictures out of films, off the main thread: each request some moments of one film, answered picture by picture. */
import { CanvasSink, type Input, UrlSource } from 'mediabunny'
import { wordsOf } from '@/core/formats/said'
import { openFilm } from '../decode/film'

/** What the page sends. */
export interface StillsRequest {
  id: number
  url: string
  /** Seconds of the film, from early to late. */
  times: number[]
  /** Of the pictures, in pixels; as high as the film is. */
  width: number
}

/** A picture, null where the film has none at that time; or, at the end, that all are there, or why not. */
export type StillsReply =
  | { kind: 'still'; id: number; time: number; picture: Blob | null }
  | { kind: 'done'; id: number }
  | { kind: 'failed'; id: number; message: string }

const say = (reply: StillsReply) => self.postMessage(reply)

/** Films stay open: the next eight is asked for soon. */
const MOST_OPEN = 3
const opened = new Map<string, Input>()

function filmAt(url: string): Input {
  const known = opened.get(url)
  if (known) return known
  for (const [old, input] of opened) {
    if (opened.size < MOST_OPEN) break
    opened.delete(old)
    input.dispose()
  }
  const input = openFilm(new UrlSource(url))
  opened.set(url, input)
  return input
}

async function stillsOf({ id, url, times, width }: StillsRequest): Promise<void> {
  const track = await filmAt(url).getPrimaryVideoTrack()
  if (!track) throw new Error('There is no picture in this film.')
  const sink = new CanvasSink(track, { width, poolSize: 2 })
  let k = 0
  for await (const wrapped of sink.canvasesAtTimestamps(times)) {
    const canvas = wrapped?.canvas as OffscreenCanvas | undefined
    const picture = canvas ? await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 }) : null
    say({ kind: 'still', id, time: times[k++] as number, picture })
  }
  say({ kind: 'done', id })
}

let before: Promise<void> = Promise.resolve()
self.onmessage = ({ data }: MessageEvent<StillsRequest>) => {
  // One after another: a film is decoded once at a time.
  before = before.then(() =>
    stillsOf(data).catch((error: unknown) => say({ kind: 'failed', id: data.id, message: wordsOf(error) })),
  )
}
