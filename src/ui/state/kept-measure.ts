import { base64Of, bytesOf } from '@/core/formats/base64'
import { fetchMeasure } from './api'
import type { KeptMeasure } from './player-song'
import { putMeasure } from './saved'

/** What was measured of a song is kept with it. @param own the song is of whose page this is: of another's nothing is kept */
export function measureKeptWith(songId: string, own: boolean): KeptMeasure {
  return {
    get: async () => {
      const kept = await fetchMeasure(songId)
      return kept === '' ? null : bytesOf(kept)
    },
    put: async (packed) => {
      if (own) await putMeasure(songId, base64Of(packed))
    },
  }
}
