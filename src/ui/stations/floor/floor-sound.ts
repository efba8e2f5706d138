import { type DrillPlan, drillTimeline, rangeOf, withLeadIn } from '@/core/drill'
import { type FloorState, following } from '@/core/floor'
import { cuesIn, type DancedCue, ofPass, type Routine } from '@/core/routine'
import type { FloorWish } from '@/core/station'
import type { Ratio, Ticks } from '@/core/time'
import type { useCallsFor } from '../../state/choreo'
import type { Page } from '../../state/page'
import type { Player } from '../../state/player'
import type { Sounding } from '../../state/player-levels'
import { useView } from '../../state/view'

/** What a drill is laid out from, as it is at this moment. */
export interface Laid {
  page: Page
  routine: Routine
  shown: readonly DancedCue[]
  callsFor: ReturnType<typeof useCallsFor>
  floor: FloorState
}

/** What the player sounds of a drill: a film that is heard in place of the song takes its part. */
function soundOf({ sound }: DrillPlan, { films }: Pick<Routine, 'films'>): Sounding {
  const { beside, filmSound } = useView.getState()
  const byFilm = beside === 'film' && filmSound && films.some((f) => f.takes.length > 0)
  return byFilm && sound !== 'counts' ? (sound === 'both' ? 'counts' : 'none') : sound
}

/**
 * Plays what the floor's machine asks for, and tells it what is heard of it.
 * @param laid what is danced now, asked before each repetition: the next one is as the dance is then
 */
export function makeFloorSound(player: Player, laid: () => Laid, tell: (wish: FloorWish) => void) {
  /** Which sound is the latest: what an older one still tells is not heard. */
  let latest = 0

  /**
   * One repetition.
   * @param begin from where; null for its beginning
   * @param lead what leads into it
   */
  const lay = (plan: DrillPlan, speed: Ratio, begin: Ticks | null, lead = plan.leadIn ?? 'clicks') => {
    const { page, routine, shown, callsFor } = laid()
    const range = rangeOf(plan, routine)
    const cues = ofPass(cuesIn(shown, range), plan.pass).map((c) => c.at)
    const { times, placed } = page
    const timeline = drillTimeline(
      { times, placed, ...range, from: begin ?? range.from, cues, ...callsFor(plan) },
      speed,
      plan.countIn,
    )
    return withLeadIn(timeline, times, lead)
  }

  /** The words that are called are spoken before they are due. */
  const learn = (plan: DrillPlan) => {
    const { routine, callsFor } = laid()
    const words = callsFor(plan)
    player.learnVoices(words.voices ?? [])
    if (words.leadWords.length) player.learn(words.leadWords)
    if (!words.words.size) return
    const { from, to } = rangeOf(plan, routine)
    player.learn([...words.words.values()].flatMap((c) => (c.of >= from && c.of < to ? [c.word] : [])))
  }

  return {
    play: (plan: DrillPlan, from: Ticks | null) => {
      const mine = ++latest
      const heard = () => mine === latest
      learn(plan)
      const first = lay(plan, plan.speed, from)
      tell({ kind: 'began', speed: plan.speed, seconds: first.body, looped: false })
      player.mute(soundOf(plan, laid().routine))
      const performance = player.perform({
        first,
        next: () => {
          const { drill } = laid().floor
          const next = heard() && drill ? following(drill) : null
          if (!next) return null
          // Long before the first repetition; before others as long as they are counted in.
          const before = (plan.leadIn ?? 'clicks') === 'clicks' ? 'clicks' : 'song'
          const timeline = lay(plan, next.speed, null, before)
          tell({ kind: 'began', speed: next.speed, seconds: timeline.body, looped: !next.countIn })
          return { timeline, countIn: next.countIn }
        },
        onLeg: (leg) => heard() && tell({ kind: 'repetition ended', k: leg.k }),
        onEnd: () => heard() && tell({ kind: 'all ended' }),
      })
      performance.then((sounds) => {
        // Without sound there is no drill, and nothing to mark.
        if (!sounds && heard()) tell({ kind: 'no sound' })
      })
    },
    silence: () => {
      latest++
      player.stop()
    },
  }
}
