'use client'

import { Play, Repeat, Target } from 'lucide-react'
import { ToggleButton } from 'react-aria-components'
import styled from 'styled-components'
import { type DrillPlan, rangeOf, type Sound } from '@/core/drill'
import { ADDED, type Added } from '@/core/floor'
import { type Pass, stretchName } from '@/core/routine'
import { clampSpeed, clockText, FASTEST, SLOWEST, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Slide } from '../../parts/field'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Volumes } from '../../sheet/transport'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { floor, font } from '../../theme/tokens'
import { BesideChoice } from './beside-choice'
import { passName, usePasses } from './changes'
import { CountChoice } from './count-choice'
import { Alarm, Dark, Flip, Toggles, TopLine } from './dark'
import { MoreChoice } from './more-choice'
import { OwnVoice } from './own-voice'
import { PedalKeys } from './pedal'
import { PhraseChips } from './phrase-chips'
import type { Filmed } from './reel'
import type { useCamera } from './use-camera'
import { WhoChoice } from './who-choice'

const Halves = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 334px;
  gap: 36px;
  flex: 1;
  min-height: 0;
  @media (max-width: 800px) { grid-template-columns: minmax(0, 1fr); gap: 18px; }
`

/** A half that scrolls by itself, so that the start stays in sight. */
const Half = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  align-content: start;
  min-width: 0;
  overflow-y: auto;
  max-height: calc(100dvh - 208px);
  padding: 4px 10px 4px 4px;
  scrollbar-width: thin;
  scrollbar-color: ${floor.line} transparent;
  @media (max-width: 800px) { max-height: none; overflow: visible; }
`

const How = styled(Half)`
  .label { font-size: 14px; color: ${floor.quiet}; margin-bottom: 6px; }
`

const Big = styled.div`
  display: flex;
  gap: 14px;
  button { flex: 1; min-height: 62px; font: 700 21px/1 ${font.display}; justify-content: flex-start; padding: 0 22px; min-width: 0; }
  button:first-child { flex: 1.7; }
  span { overflow: hidden; text-overflow: ellipsis; line-height: 1.25; }
  small { margin-left: auto; font: 500 14px/1 ${font.text}; opacity: 0.85; }
  @media (min-width: 701px) and (max-width: 1180px) { button { font-size: 17px; padding: 0 14px; } button:first-child small { display: none; } }
  @media (max-width: 700px) { flex-direction: column; gap: 8px; button { min-height: 54px; flex: none; } }
  @media (max-width: 800px) { position: sticky; bottom: 0; background: ${floor.ground}; padding: 8px 0; }
`

interface Props {
  id: string
  page: Page
  plan: DrillPlan
  /** How much is taken in at once when the drill is added up. */
  size: Added
  onSize: (size: Added) => void
  /** The counts are there. */
  can: boolean
  onPlan: (plan: DrillPlan) => void
  mirrored: boolean
  onMirrored: (on: boolean) => void
  onDrill: () => void
  onRun: () => void
  onTiming: () => void
  /** Loads the page anew, where it may not record as it is. */
  onOwnCounts: () => void
  /** The page was loaded to record counts. */
  recording: boolean
  trouble: string
  camera: ReturnType<typeof useCamera>
  filmed: Filmed | null
  forget: () => void
}

/** Ends with a full stop, whoever wrote it. */
const sentence = (text: string) => text.trim().replace(/\.*$/, '.')

/** Before the drill: which phrases, how fast, what sounds. */
export function Setting({
  id,
  page,
  plan,
  size,
  onSize,
  can,
  onPlan,
  mirrored,
  onMirrored,
  onDrill,
  onRun,
  onTiming,
  onOwnCounts,
  recording,
  trouble,
  camera,
  filmed,
  forget,
}: Props) {
  const routine = useRoutine((s) => s.routine)
  const { from, to } = rangeOf(plan, routine)
  const seconds =
    page.times.length > 1 ? (timeOfTick(page.times, to) - timeOfTick(page.times, from)) / plan.speed : 0
  const passes = usePasses()
  return (
    <Dark>
      <TopLine>
        <span>
          <LinkWhenMeant href={`/r/${id}/cue`}>Back to the desk</LinkWhenMeant>
          &ensp;{routine.title}
        </span>
        <LinkWhenMeant href={`/r/${id}/log`}>Log</LinkWhenMeant>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      <Halves>
        <Half>
          <div>
            <h1>What do we drill?</h1>
            <p style={{ color: floor.quiet }}>
              Press the first phrase, then the last one if it is more than one; or only some counts.
            </p>
          </div>
          <CountChoice page={page} plan={plan} onPlan={onPlan} />
          <PhraseChips page={page} plan={plan} onPlan={onPlan} mirrored={mirrored} />
        </Half>
        <How>
          <div>
            <Slide
              dark
              label="Speed"
              name="Speed"
              value={plan.speed}
              min={SLOWEST}
              max={FASTEST}
              step={0.05}
              onChange={(speed) => onPlan({ ...plan, speed: clampSpeed(speed) })}
              text={(v) => `${Math.round(v * 100)} % · ${Math.round(page.tempo * v)} BPM`}
            />
          </div>
          <div>
            <div className="label">What sounds</div>
            <Toggles
              aria-label="What sounds"
              selectionMode="single"
              disallowEmptySelection
              selectedKeys={[plan.sound]}
              onSelectionChange={(keys) => onPlan({ ...plan, sound: [...keys][0] as Sound })}
            >
              <ToggleButton id="counts">Counts</ToggleButton>
              <ToggleButton id="both">Both</ToggleButton>
              <ToggleButton id="music">Music</ToggleButton>
            </Toggles>
          </div>
          <div>
            <div className="label">Shown and counted in for</div>
            <Toggles
              aria-label="Shown and counted in for"
              selectionMode="single"
              disallowEmptySelection
              selectedKeys={[plan.pass ?? 'all']}
              onSelectionChange={(keys) => onPlan({ ...plan, pass: [...keys][0] as Pass })}
            >
              {passes.map((p) => (
                <ToggleButton key={p} id={p}>
                  {passName(p)}
                </ToggleButton>
              ))}
            </Toggles>
          </div>
          <WhoChoice />
          <div>
            <div className="label">Count-in</div>
            <Toggles
              aria-label="Count-in"
              selectionMode="single"
              disallowEmptySelection
              selectedKeys={[String(plan.countIn)]}
              onSelectionChange={(keys) => onPlan({ ...plan, countIn: Number([...keys][0]) })}
            >
              <ToggleButton id="2">7 8</ToggleButton>
              <ToggleButton id="4">5 6 7 8</ToggleButton>
              <ToggleButton id="8">a full eight</ToggleButton>
            </Toggles>
          </div>
          <div>
            <div className="label">Added up by</div>
            <Toggles
              aria-label="Added up by"
              selectionMode="single"
              disallowEmptySelection
              selectedKeys={[size]}
              onSelectionChange={(keys) => onSize([...keys][0] as Added)}
            >
              {ADDED.map((n) => (
                <ToggleButton key={n} id={n}>
                  {n === 'phrase' ? 'phrases' : `${n} counts`}
                </ToggleButton>
              ))}
            </Toggles>
          </div>
          <Flip isSelected={plan.songLeads ?? false} onChange={(songLeads) => onPlan({ ...plan, songLeads })}>
            The song leads in <i aria-hidden />
          </Flip>
          <Flip isSelected={plan.countInEach} onChange={(countInEach) => onPlan({ ...plan, countInEach })}>
            Count in before every repetition <i aria-hidden />
          </Flip>
          <Flip isSelected={mirrored} onChange={onMirrored}>
            Mirrored view: left and right swapped <i aria-hidden />
          </Flip>
          <Flip isSelected={plan.toBack ?? false} onChange={(toBack) => onPlan({ ...plan, toBack })}>
            Danced to the back, without the mirror <i aria-hidden />
          </Flip>
          <MoreChoice page={page} plan={plan} onPlan={onPlan} />
          <Volumes dark />
          <BesideChoice {...{ camera, filmed, forget }} />
          <OwnVoice recording={recording} load={onOwnCounts} />
          <PedalKeys />
        </How>
      </Halves>
      <p style={{ color: floor.quiet, fontSize: 14 }}>
        {routine.gear && `Bring: ${sentence(routine.gear)} `}
        {routine.room && `Room: ${sentence(routine.room)} `}
        Warm up first. Enough clear floor, shoes that hold, water near. Stop on pain. Keep the sound at a
        comfortable level.
      </p>
      <Big>
        <Button look="strong" onPress={onDrill} isDisabled={!can}>
          <Repeat size={22} />
          <span>Drill {stretchName(page.placed, plan.stretch)}</span>{' '}
          <small>{clockText(seconds)} each · space</small>
        </Button>
        <Button look="dark" onPress={onRun} isDisabled={!can}>
          <Play size={22} /> Run it, full tempo <small>R</small>
        </Button>
        <Button look="dark" onPress={onTiming} isDisabled={!can}>
          <Target size={22} /> Timing <small>T</small>
        </Button>
      </Big>
    </Dark>
  )
}
