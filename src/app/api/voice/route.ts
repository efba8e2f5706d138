import * as v from 'valibot'
import { handle } from '@/server/handle'
import { spoken } from '@/server/speech'

const Words = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80))

/** A word or two, spoken; the header says where its stress falls, in milliseconds. */
export const GET = handle(async (request) => {
  const { wav, stress } = await spoken(v.parse(Words, new URL(request.url).searchParams.get('say')))
  return new Response(new Uint8Array(wav), {
    headers: {
      'content-type': 'audio/wav',
      'x-stress-ms': String(Math.round(stress * 1000)),
      'cache-control': 'private, max-age=86400',
    },
  })
})
