import { EncodedPacketSink, Input, type InputTrack, MATROSKA, MP4, QTFF, type Source, WEBM } from 'mediabunny'
import type { Seconds } from '../core/time'

/** What a film is, as far as it can be told without decoding it. */
export interface FilmLook {
  seconds: Seconds
  width: number
  height: number
  /** Pictures a second, of its beginning. */
  frameRate: number
  /** As browsers name what they play. */
  mime: string
  /** Names of its codecs; null where nobody knows them. */
  video: string | null
  audio: string | null
}

/** Why something is no film of a dance. */
export type FilmFault = 'no film' | 'no picture' | 'no sound' | 'broken'

/** Formats films come in (ISO/IEC 14496-12, QuickTime File Format, Matroska and WebM: RFC 9559). */
const FORMATS = [MP4, QTFF, WEBM, MATROSKA]

/** Pictures that are counted for how many come in a second. */
const LOOKED_AT = 120

/** A film opened by its bytes. */
export const openFilm = <S extends Source>(source: S): Input<S> => new Input({ source, formats: FORMATS })

async function beginsOf(track: InputTrack): Promise<boolean> {
  const packet = await new EncodedPacketSink(track).getFirstPacket()
  return packet !== null && packet.byteLength > 0
}

/**
 * Looks at a film: how long it is, how large, and whether there is a picture and a sound in it.
 * @param silent it may be without a sound: what it shows is known
 */
export async function lookAtFilm(source: Source, silent = false): Promise<FilmLook | FilmFault> {
  const input = openFilm(source)
  try {
    if (!(await input.canRead())) return 'no film'
    const [video, audio] = [await input.getPrimaryVideoTrack(), await input.getPrimaryAudioTrack()]
    // A film that was never finished has its list of tracks still to come.
    if (!video && !audio) return 'broken'
    if (!video) return 'no picture'
    if (!audio && !silent) return 'no sound'
    if (!(await beginsOf(video)) || (audio && !(await beginsOf(audio)))) return 'broken'
    const seconds = await input.computeDuration(audio ? [video, audio] : [video])
    const [width, height] = [await video.getDisplayWidth(), await video.getDisplayHeight()]
    if (!(seconds > 0) || !Number.isFinite(seconds) || !(width > 0) || !(height > 0)) return 'broken'
    const { averagePacketRate } = await video.computePacketStats(LOOKED_AT)
    const frameRate = Math.min(240, Math.max(1, Math.round(1000 * averagePacketRate) / 1000 || 30))
    const format = await input.getFormat()
    return {
      ...{ seconds, width, height, frameRate },
      // Browsers play QuickTime and Matroska as what they are made like.
      mime: format === WEBM || format === MATROSKA ? 'video/webm' : 'video/mp4',
      video: await video.getCodec(),
      audio: (await audio?.getCodec()) ?? null,
    }
  } catch {
    return 'broken'
  } finally {
    input.dispose()
  }
}

/** What of a film a browser cannot decode, by the name of its codec; null where it can. Only where there are codecs to ask. */
export async function unseenIn(source: Source): Promise<{ what: 'picture' | 'sound'; codec: string } | null> {
  const input = openFilm(source)
  try {
    for (const [what, track] of [
      ['picture', await input.getPrimaryVideoTrack()],
      ['sound', await input.getPrimaryAudioTrack()],
    ] as const)
      if (track && !(await track.canDecode()))
        return { what, codec: CODEC_NAMES[(await track.getCodec()) ?? ''] ?? 'of an unknown kind' }
    return null
  } finally {
    input.dispose()
  }
}

/** Codecs by the names people meet on cameras. */
const CODEC_NAMES: Record<string, string> = {
  ...{ avc: 'H.264', hevc: 'H.265 (HEVC)', vp8: 'VP8', vp9: 'VP9', av1: 'AV1' },
  ...{ aac: 'AAC', opus: 'Opus', mp3: 'MP3', vorbis: 'Vorbis', flac: 'FLAC', ac3: 'AC-3', eac3: 'E-AC-3' },
}

/** What is told of a file that is no film of a dance. @param kept what became of it */
export const filmFaultSaid = (fileName: string, fault: FilmFault, kept = 'Nothing was kept.'): string =>
  ({
    'no film': `“${fileName}” is no film Azalea can read. ${kept} It takes MP4, MOV and WebM.`,
    'no picture': `There is no picture in “${fileName}”. ${kept} A song is dropped on the shelf.`,
    'no sound': `There is no sound in “${fileName}”, so the song cannot be found in it. ${kept} Save it with its sound, and try again.`,
    broken: `“${fileName}” is broken: it begins like a film and does not go on like one. ${kept} Copy it from the camera once more.`,
  })[fault]
