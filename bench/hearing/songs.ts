/* MIDI songs by others, under free licences, from Debian's packages: music whose beats are known from its own tempo map. */

export interface BenchSong {
  id: string
  /** Development looks at half of the songs; the other half is looked at only to report. */
  half: 'dev' | 'report'
  /** `clean`: plain 4/4 throughout. `odd`: other metres, changing tempo, half-time drums, doubtful bars. */
  kind: 'clean' | 'odd'
  /** Beats before the first written bar. */
  origin: number
  /** Ticks by which every note lags the written grid. */
  lag: number
  /** Bar lines can be trusted. */
  bars: boolean
  /** Bars, the first written one being 0, on which the eights begin anew after an odd number of bars. */
  anew: readonly number[]
  /** Takes the song's degraded versions. */
  spoiled: boolean
}

/** Packages the songs come from; they are unpacked, not installed. */
export const PACKAGES = ['openttd-openmsx', 'freedoom', 'freedm', 'planetblupi-music-midi', 'mma'] as const

const CLEAN =
  'omsx-city_blues_redfarn* omsx-keep_on_rolling* omsx-ultimate_run* fd1-d_e3m3* fd1-d_e3m6* fd2-d_betwee* blupi-music007* mma-hits* omsx-relax_song omsx-say_what_redfarn fd1-d_e2m8 fd1-d_e3m1 fd1-d_e3m4 fd2-d_adrian fd2-d_ddtbl3 fd2-d_dead2 fd2-d_in_cit fd2-d_stalks fd2-d_stlks3 fdm-d_ddtbl2 fdm-d_openin fdm-d_romer2 fdm-d_runni2 blupi-music003 blupi-music006 mma-bill-bailey mma-cresc'
const ODD =
  'omsx-midnight_snow_run omsx-ttsong_iii_imuh3 fd1-d_e2m1 fd1-d_e2m3 fd1-d_e3m2! fd1-d_e3m9 fd1-d_victor fd2-d_ampie fd2-d_ddtbl2 fd2-d_romer2 fd2-d_runni2 fdm-d_ampie! fdm-d_countd fdm-d_doom fdm-d_romero fdm-d_shawn2! fdm-d_theda2 blupi-music008'

/** By the notes: after the bridge that begins in bar 21 the tune of bars 4 to 18 comes again in bar 29; the tune of bar 16 in bar 35, crashes on 31, 33 and 35. */
const ANEW: Readonly<Record<string, readonly number[]>> = { 'omsx-ultimate_run': [21], 'fd2-d_stlks3': [31] }

function listed(line: string, kind: BenchSong['kind'], from: number): BenchSong[] {
  return line.split(' ').map((name, i) => {
    const id = name.replace(/[*!]$/, '')
    return {
      id,
      half: (from + i) % 2 === 0 ? 'dev' : 'report',
      kind,
      // The MMA songs begin with one beat of set-up; the Planet Blupi ones were played 20 ticks late throughout.
      origin: id.startsWith('mma-') ? 1 : 0,
      lag: /^blupi-music00[678]$/.test(id) ? 20 : 0,
      bars: !name.endsWith('!'),
      anew: ANEW[id] ?? [],
      spoiled: name.endsWith('*'),
    }
  })
}

const clean = listed(CLEAN, 'clean', 0)

/** Every song of the bench; no other song of these packages is read. */
export const SONGS: readonly BenchSong[] = [...clean, ...listed(ODD, 'odd', clean.length)]
