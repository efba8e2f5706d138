/* npm run bench:match: copies of songs, spoiled, found again by their sound; and songs that are no copies. */
import { readFileSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { readWav, toMono, writeWav } from '../../src/core/formats/wav'
import {
  findTakes,
  packTrace,
  placeIn,
  type Take,
  type Trace,
  traceOf,
  unpackTrace,
} from '../../src/core/match'
import {
  joined,
  piece,
  poor,
  quiet,
  resampled,
  type Sound,
  shaped,
} from '../../src/core/match/match.test-tools'
import { fetchSongs, mp3Of, rendered } from '../hearing/render'
import { SONGS } from '../hearing/songs'

/** So many songs, so much of each: every song is compared with every copy. */
const [MOST, LONGEST] = [8, 120]

interface Copy {
  name: string
  sound: Sound
  /** Where a time of the song truly lies; null where it is not in the copy. */
  truly: (at: number) => number | null
}

const soundOf = (file: string): Sound => {
  const pcm = readWav(readFileSync(file))
  return piece({ rate: pcm.sampleRate, samples: toMono(pcm) }, 0, LONGEST)
}

/** The copies of one song; their places are known to the sample. */
async function copiesOf(song: Sound, id: string): Promise<Copy[]> {
  const { rate } = song
  const end = song.samples.length / rate
  const file = path.join(os.tmpdir(), `azalea-match-${id}.wav`)
  writeFileSync(file, writeWav({ sampleRate: rate, channels: [song.samples] }))
  await mp3Of(file)
  const mp3 = soundOf(file)
  const [cut, back] = [0.4 * end, 0.4 * end + 16.37]
  return [
    {
      name: 'MP3 at 128 kbit/s, lead-in of 1.7 s',
      sound: joined(quiet(rate, 1.7), mp3),
      truly: (t) => t + 1.7,
    },
    { name: 'begun 8.3 s later', sound: piece(song, 8.3, end), truly: (t) => (t < 8.3 ? null : t - 8.3) },
    { name: '48 kHz', sound: resampled(song, 48_000), truly: (t) => t },
    {
      name: 'softer, faded out',
      sound: shaped(song, (x) => 0.3 * Math.min(1, (1 - x) / 0.25)),
      truly: (t) => t,
    },
    { name: '150 to 5000 Hz in eight bits', sound: poor(song), truly: (t) => t },
    { name: 'two thousandths faster', sound: resampled(song, rate, 1.002), truly: (t) => t / 1.002 },
    {
      name: '16 s left out',
      sound: joined(piece(song, 0, cut), piece(song, back, end)),
      truly: (t) => (t < cut ? t : t < back ? null : t - (back - cut)),
    },
  ]
}

const middle = (xs: number[], share = 0.5) =>
  [...xs].sort((a, b) => a - b)[Math.floor(share * (xs.length - 1))] ?? 0

async function main(): Promise<void> {
  fetchSongs()
  const songs: { id: string; sound: Sound; trace: Trace }[] = []
  for (const s of SONGS) {
    if (songs.length >= MOST) break
    const made = await rendered(s, null)
    if (!made) continue
    const sound = soundOf(made.file)
    if (sound.samples.length / sound.rate < 60) continue
    const trace = unpackTrace(packTrace(traceOf(sound.samples, sound.rate))) as Trace
    songs.push({ id: s.id, sound, trace })
  }
  console.log(
    `${songs.length} songs, ${os.cpus().length} × ${os.cpus()[0]?.model ?? ''}, Node ${process.version}`,
  )
  console.log('| copy | found | counts placed | median | 95 % | seconds |')
  console.log('| --- | --- | --- | --- | --- | --- |')
  const rows = new Map<
    string,
    { found: number; of: number; off: number[]; lost: number; asked: number; ms: number[] }
  >()
  let [wrong, compared] = [0, 0]
  for (const song of songs) {
    for (const copy of await copiesOf(song.sound, song.id)) {
      const row = rows.get(copy.name) ?? { found: 0, of: 0, off: [], lost: 0, asked: 0, ms: [] }
      rows.set(copy.name, row)
      const trace = traceOf(copy.sound.samples, copy.sound.rate)
      const from = performance.now()
      const takes: Take[] = findTakes(song.trace, trace)
      row.ms.push(performance.now() - from)
      row.of++
      if (takes.length) row.found++
      for (let t = 1; t < song.sound.samples.length / song.sound.rate - 1; t += 0.5) {
        const truly = copy.truly(t)
        if (truly === null) continue
        row.asked++
        const place = placeIn(takes, t)
        if (place === null) row.lost++
        else row.off.push(Math.abs(place - truly) * 1000)
      }
      // The first copy of each is held against all other songs.
      if (copy.name.startsWith('MP3'))
        for (const other of songs) {
          if (other === song) continue
          compared++
          if (findTakes(other.trace, trace).length) wrong++
        }
    }
    process.stderr.write(`${song.id} `)
  }
  for (const [name, r] of rows)
    console.log(
      `| ${name} | ${r.found} of ${r.of} | ${(100 * (1 - r.lost / r.asked)).toFixed(1)} % | ${middle(r.off).toFixed(1)} ms | ${middle(r.off, 0.95).toFixed(1)} ms | ${(middle(r.ms) / 1000).toFixed(1)} |`,
    )
  console.log(`claimed in another song: ${wrong} of ${compared}`)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exitCode = 1
})
