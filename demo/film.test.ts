import * as bunny from 'mediabunny'
import * as v from 'valibot'
import { expect, it } from 'vitest'
import { moveBook, STARTING_MOVES } from '../src/core/choreo'
import { RoutineSchema } from '../src/core/routine'
import { demoFilm, demoFilmSound } from './film'
import { demoRoutine } from './routine'
import { demoTruth } from './song'

it('the demo’s film says which of its pictures stand alone: a player that goes to a moment shows that moment', async () => {
  const { beats } = demoTruth()
  const [from = 0, to = 0] = [beats[64], beats[68]]
  const rate = 44_100
  const takes = [{ from, to, speed: 1 }]
  const sound = demoFilmSound({ mono: new Float32Array(Math.ceil((to + 1) * rate)), rate }, takes)
  const routine = v.parse(RoutineSchema, demoRoutine(beats))
  const bytes = await demoFilm(routine, moveBook(STARTING_MOVES), beats, sound, takes)
  const input = new bunny.Input({ source: new bunny.BufferSource(bytes), formats: [bunny.MP4] })
  const track = await input.getPrimaryVideoTrack()
  if (!track) throw new Error('it has no pictures')
  const alone: number[] = []
  let all = 0
  for await (const packet of new bunny.EncodedPacketSink(track).packets()) {
    all++
    if (packet.type === 'key') alone.push(Math.round(packet.timestamp * 1000) / 1000)
  }
  // One a second, as it is coded; what the file says of a picture is what is in it.
  expect(alone).toEqual(Array.from({ length: Math.ceil(all / 15) }, (_, n) => n))
  for await (const packet of new bunny.EncodedPacketSink(track).packets())
    expect(await track.determinePacketType(packet)).toBe(packet.type)
})
