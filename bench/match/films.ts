/* npm run bench:films: films made of songs at several speeds, with somebody counting over them, in a room, through a phone: takes
   found, their speed and place, and what is claimed where another song plays. Odd songs are kept back: nothing was set on them. */
import { readFileSync } from 'node:fs'
import { readWav, toMono } from '../../src/core/formats/wav'
import { findTakesAtAnySpeed, type Trace, traceOf } from '../../src/core/match'
import { dice, filmed, inRoom, type Scene, talk, throughPhone } from '../../src/core/match/film.test-tools'
import { piece, type Sound } from '../../src/core/match/match.test-tools'
import { fetchSongs, rendered } from '../hearing/render'
import { SONGS } from '../hearing/songs'

const [MOST, LONGEST] = [Number(process.env.SONGS ?? 8), 100]
const KEPT_BACK = process.env.KEPT_BACK === '1'

const soundOf = (file: string): Sound => {
  const pcm = readWav(readFileSync(file))
  return piece({ rate: pcm.sampleRate, samples: toMono(pcm) }, 0, LONGEST)
}

/** What a lesson's film has: slow twice, then at tempo, talk before, between and after. */
const SCENES: readonly Scene[] = [
  { talk: 12 },
  { from: 22, to: 40, speed: 0.75 },
  { talk: 9 },
  { from: 50, to: 58, speed: 0.6 },
  { talk: 8 },
  { from: 40, to: 65, speed: 1 },
  { talk: 6 },
]

const CONDITIONS: readonly [string, { louder: number | null; room: boolean; phone: boolean }][] = [
  ['as it is', { louder: null, room: false, phone: false }],
  ['counted over, as loud, room', { louder: 0, room: true, phone: false }],
  ['counted over, 6 dB louder, room', { louder: 6, room: true, phone: false }],
  ['counted over, as loud, phone', { louder: 0, room: false, phone: true }],
]

const middle = (list: number[], share = 0.5) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))] ?? Number.NaN

interface Row {
  takes: number
  found: number
  elsewhere: number
  extra: number
  rate: number[]
  place: number[]
  edge: number[]
  ms: number[]
  seconds: number
}

async function main() {
  fetchSongs()
  const wanted = SONGS.filter((s) => (KEPT_BACK ? s.kind === 'odd' : s.kind !== 'odd'))
  const songs: { id: string; sound: Sound; trace: Trace; beat: number }[] = []
  for (const song of wanted) {
    if (songs.length >= MOST) break
    const made = await rendered(song, null)
    if (!made) continue
    const sound = soundOf(made.file)
    if (sound.samples.length / sound.rate < 75) continue
    const [a, b] = [made.truth.beats[8] ?? 0, made.truth.beats[9] ?? 0.5]
    songs.push({ id: song.id, sound, trace: traceOf(sound.samples, sound.rate), beat: b - a })
  }
  const rows = new Map<string, Row>()
  let [claimed, compared] = [0, 0]
  for (const [n, song] of songs.entries()) {
    for (const [name, { louder, room, phone }] of CONDITIONS) {
      const film = filmed(song.sound, SCENES, { louder, beat: song.beat, seed: n + 1 })
      let sound = room ? inRoom(film.sound, film.roll) : film.sound
      if (phone) sound = throughPhone(sound)
      const trace = traceOf(sound.samples, sound.rate)
      const row = rows.get(name) ?? {
        ...{ takes: 0, found: 0, elsewhere: 0, extra: 0, rate: [], place: [], edge: [], ms: [], seconds: 0 },
      }
      rows.set(name, row)
      const from = performance.now()
      const takes = findTakesAtAnySpeed(song.trace, trace)
      row.ms.push(performance.now() - from)
      row.seconds += sound.samples.length / sound.rate
      row.takes += film.truth.length
      row.extra += takes.filter((t) => !film.truth.some((x) => t.from < x.filmTo && t.to > x.filmFrom)).length
      for (const x of film.truth) {
        const m = (x.filmFrom + x.filmTo) / 2
        const t = takes.find((o) => o.from <= m && o.to >= m)
        if (!t || Math.abs(t.rate / x.rate - 1) > 0.01) {
          process.stderr.write(`\n${song.id}, ${name}: at speed ${x.rate.toFixed(2)} not found\n`)
          continue
        }
        const off = t.at + (m - t.from) * t.rate - (x.songAt + (m - x.filmFrom) * x.rate)
        if (Math.abs(off) > 0.5) {
          row.elsewhere++
          continue
        }
        row.found++
        row.rate.push(100 * Math.abs(t.rate / x.rate - 1))
        row.place.push(1000 * Math.abs(off))
        row.edge.push(Math.abs(t.from - x.filmFrom), Math.abs(t.to - x.filmTo))
      }
      if (name === CONDITIONS[1]?.[0])
        for (const other of songs) {
          if (other === song) continue
          compared++
          if (findTakesAtAnySpeed(other.trace, trace).length) claimed++
        }
    }
    compared++
    const said = talk(60, dice(90 + n))
    if (findTakesAtAnySpeed(song.trace, traceOf(said.samples, said.rate)).length) claimed++
    process.stderr.write(`${song.id} `)
  }
  console.log(
    '\n| film | found | elsewhere | extra | speed % 50/95 | place ms 50/95 | edges s 50/95 | s of a minute |',
  )
  for (const [name, r] of rows)
    console.log(
      `| ${name} | ${r.found} of ${r.takes} | ${r.elsewhere} | ${r.extra} | ${middle(r.rate).toFixed(3)} / ${middle(r.rate, 0.95).toFixed(3)} | ${middle(r.place).toFixed(1)} / ${middle(r.place, 0.95).toFixed(1)} | ${middle(r.edge).toFixed(1)} / ${middle(r.edge, 0.95).toFixed(1)} | ${((60 * r.ms.reduce((a, b) => a + b, 0)) / 1000 / r.seconds).toFixed(2)} |`,
    )
  console.log(`claimed where another song or only talk plays: ${claimed} of ${compared}`)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exitCode = 1
})
