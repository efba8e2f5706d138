/** Who hears a song for the first time, or looks for it in a film: the device its page is open on, or a school's server. */
export type Hearer = 'device' | 'server'

export interface HearerFacts {
  /** A school's server, that takes heavy work. */
  served: boolean
  /** What is heard may be kept with the song. */
  own: boolean
  /** The device is a phone or the like: hearing takes long on it, and ends where its page is put away. */
  phone: boolean
  /** Said by hand. */
  wanted: Hearer | null
}

/** True where one may choose. */
export const maySayHearer = ({ served, own }: Pick<HearerFacts, 'served' | 'own'>): boolean => served && own

export function hearerOf({ served, own, phone, wanted }: HearerFacts): Hearer {
  if (!maySayHearer({ served, own })) return 'device'
  return wanted ?? (phone ? 'server' : 'device')
}
