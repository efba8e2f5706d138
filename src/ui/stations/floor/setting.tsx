'use client'

import { Play, Repeat, Target } from 'lucide-react'
import styled from 'styled-components'
import { type DrillPlan, rangeOf } from '@/core/drill'
import { ADDED } from '@/core/floor'
import { asSentence } from '@/core/formats/sentence'
import { type PlacedPhrase, stretchName } from '@/core/routine'
import { clampSpeed, clockText, common, FASTEST, SLOWEST, type Stretch, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Slide } from '../../parts/field'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Volumes } from '../../sheet/sound-picks'
import { tempoOfTick } from '../../state/page'
import { useView } from '../../state/view'
import { floor, font } from '../../theme/tokens'
import { BesideChoice } from './beside-choice'
import { passName, usePasses } from './changes'
import { CountChoice } from './count-choice'
import { Alarm, Dark, Flip, TopLine } from './dark'
import { useFloor } from './floor-store'
import { MoreChoice } from './more-choice'
import { OneOf } from './one-of'
import { OwnVoice } from './own-voice'
import { PedalKeys } from './pedal'
import { PhraseChips } from './phrase-chips'
import { useTrouble } from './use-trouble'
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

/** Before the drill: which phrases, how fast, what sounds. */
export function Setting({ id }: { id: string }) {
  const title = useFloor((s) => s.routine.title)
  const trouble = useTrouble()
  return (
    <Dark>
      <TopLine>
        <span>
          <LinkWhenMeant href={`/r/${id}/cue`}>Back to the desk</LinkWhenMeant>
          &ensp;{title}
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
          <CountChoice />
          <PhraseChips />
        </Half>
        <How>
          <SpeedChoice />
          <SoundChoices />
          <Switches />
          <MoreChoice />
          <Volumes dark />
          <BesideChoice />
          <OwnVoice />
          <PedalKeys />
        </How>
      </Halves>
      <Needs />
      <Starts />
    </Dark>
  )
}

function SpeedChoice() {
  const speed = useFloor((s) => s.plan.speed)
  const tempo = useFloor((s) => tempoOfTick(s.page, s.plan.stretch.from))
  const send = useFloor((s) => s.send)
  return (
    <div>
      <Slide
        dark
        label="Speed"
        name="Speed"
        value={speed}
        min={SLOWEST}
        max={FASTEST}
        step={0.05}
        onChange={(to) => send({ kind: 'plan', what: { speed: clampSpeed(to) } })}
        text={(v) => `${Math.round(v * 100)} % · ${Math.round(tempo * v)} BPM`}
      />
    </div>
  )
}

const SOUNDS = [
  { key: 'counts', name: 'Counts' },
  { key: 'both', name: 'Both' },
  { key: 'music', name: 'Music' },
] as const
const COUNT_INS = [
  { key: '2', name: '7 8' },
  { key: '4', name: '5 6 7 8' },
  { key: '8', name: 'a full eight' },
] as const
const LEADS = [
  { key: 'clicks', name: 'no' },
  { key: 'song', name: 'count\u2011in' },
  { key: '8', name: '8' },
  { key: '16', name: '16' },
  { key: '32', name: '32' },
  { key: 'beginning', name: 'all' },
] as const
const SIZES = ADDED.map((n) => ({ key: n, name: n === 'phrase' ? 'phrases' : `${n} counts` }))

/** What sounds, for whom, how it is counted in and added up. */
function SoundChoices() {
  const plan = useFloor((s) => s.plan)
  const size = useFloor((s) => s.size)
  const send = useFloor((s) => s.send)
  const passes = usePasses()
  const change = (what: Partial<DrillPlan>) => send({ kind: 'plan', what })
  return (
    <>
      <OneOf
        label="What sounds"
        options={SOUNDS}
        chosen={plan.sound}
        onChoose={(sound) => change({ sound })}
      />
      <OneOf
        label="Shown and counted in for"
        options={passes.map((key) => ({ key, name: passName(key) }))}
        chosen={plan.pass ?? 'all'}
        onChoose={(pass) => change({ pass })}
      />
      <WhoChoice />
      <OneOf
        label="Count-in"
        options={COUNT_INS}
        chosen={String(plan.countIn) as '2' | '4' | '8'}
        onChoose={(n) => change({ countIn: Number(n) })}
      />
      <OneOf
        label="The song leads in, counts"
        name="The song leads in"
        options={LEADS}
        chosen={plan.leadIn ?? 'clicks'}
        onChoose={(leadIn) => change({ leadIn })}
      />
      <OneOf
        label="Added up by"
        options={SIZES}
        chosen={size}
        onChoose={(next) => send({ kind: 'size', size: next })}
      />
    </>
  )
}

function Switches() {
  const { countInEach, toBack = false } = useFloor((s) => s.plan)
  const send = useFloor((s) => s.send)
  const mirrored = useView((v) => v.mirrored)
  const flip = useView((v) => v.flip)
  const change = (what: Partial<DrillPlan>) => send({ kind: 'plan', what })
  return (
    <>
      <Flip isSelected={countInEach} onChange={(on) => change({ countInEach: on })}>
        Count in before every repetition <i aria-hidden />
      </Flip>
      <Flip isSelected={mirrored} onChange={flip}>
        Mirrored view: left and right swapped <i aria-hidden />
      </Flip>
      <Flip isSelected={toBack} onChange={(on) => change({ toBack: on })}>
        Danced to the back, without the mirror <i aria-hidden />
      </Flip>
    </>
  )
}

/** What the dance asks of dancers and room, and what every body asks. */
function Needs() {
  const gear = useFloor((s) => s.routine.gear)
  const room = useFloor((s) => s.routine.room)
  return (
    <p style={{ color: floor.quiet, fontSize: 14 }}>
      {gear && `Bring: ${asSentence(gear)} `}
      {room && `Room: ${asSentence(room)} `}
      Warm up first. Enough clear floor, shoes that hold, water near. Stop on pain. Keep the sound at a
      comfortable level.
    </p>
  )
}

/** The counts that would be drilled are there. */
const isThere = (placed: readonly PlacedPhrase[], stretch: Stretch): boolean =>
  placed.some((p) => common({ from: p.start, to: p.end }, stretch) !== null)

/** What begins. */
function Starts() {
  const plan = useFloor((s) => s.plan)
  const placed = useFloor((s) => s.page.placed)
  const times = useFloor((s) => s.page.times)
  const routine = useFloor((s) => s.routine)
  const send = useFloor((s) => s.send)
  const { from, to } = rangeOf(plan, routine)
  const seconds = times.length > 1 ? (timeOfTick(times, to) - timeOfTick(times, from)) / plan.speed : 0
  const missing = !isThere(placed, plan.stretch)
  return (
    <Big>
      <Button look="strong" onPress={() => send({ kind: 'drill' })} isDisabled={missing}>
        <Repeat size={22} />
        <span>Drill {stretchName(placed, plan.stretch)}</span>{' '}
        <small>{clockText(Math.ceil(seconds))} each · space</small>
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'run' })} isDisabled={missing}>
        <Play size={22} /> Run it, full tempo <small>R</small>
      </Button>
      <Button look="dark" onPress={() => send({ kind: 'timing', way: 'tap' })} isDisabled={missing}>
        <Target size={22} /> Timing <small>T</small>
      </Button>
    </Big>
  )
}
