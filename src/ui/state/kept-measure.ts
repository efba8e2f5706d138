import { base64Of, bytesOf } from '@/core/formats/base64'
import { fetchMeasure } from './api'
import type { KeptMeasure } from './player-song'
import { putMeasure } from './saved'

/** What was measured of a song is kept with it. */
export function measureKeptWith(songId: string): KeptMeasure {
  return {
    get: async () => {
      const kept = await fetchMeasure(songId)
      return kept === '' ? null : bytesOf(kept)
    },
    put: (packed) => putMeasure(songId, base64Of(packed)),
  }
}
