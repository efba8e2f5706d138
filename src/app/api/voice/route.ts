import * as v from 'valibot'
import { APP_VOICES } from '@/core/drill'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { spoken } from '@/server/speech'

const Words = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80))

const Voice = v.optional(v.picklist(APP_VOICES), 'clear')

/** A word or two, spoken; the header says where its stress falls, in milliseconds. */
export const GET = handle(may.signedIn, async (request) => {
  const { searchParams } = new URL(request.url)
  const voice = v.parse(Voice, searchParams.get('voice') ?? undefined)
  const { wav, stress } = await spoken(v.parse(Words, searchParams.get('say')), voice)
  return new Response(new Uint8Array(wav), {
    headers: {
      'content-type': 'audio/wav',
      'x-stress-ms': String(Math.round(stress * 1000)),
      'cache-control': 'private, max-age=86400',
    },
  })
})
