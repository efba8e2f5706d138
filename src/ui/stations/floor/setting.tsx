'use client'

import { Play, Repeat, Target } from 'lucide-react'
import Link from 'next/link'
import { useState } from 'react'
import { ToggleButton } from 'react-aria-components'
import styled from 'styled-components'
import { cuesIn, cueText, excerptOf, labelIn, type PlacedPhrase, sectionTitle } from '@/core/routine'
import { clampSpeed, clockText, FASTEST, SLOWEST, timeOfTick } from '@/core/time'
import { Button } from '../../parts/button'
import { Level } from '../../parts/field'
import { Levels } from '../../sheet/transport'
import { useShown } from '../../state/choreo'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { floor, font, tintOf } from '../../theme/tokens'
import { BesideChoice } from './beside-choice'
import { Alarm, Dark, Flip, Toggles, TopLine } from './dark'
import { OwnVoice } from './own-voice'
import { PedalKeys } from './pedal'
import type { Take, useCamera } from './use-camera'
import { type DrillPlan, rangeName, rangeOf, type Sound } from './use-drill'

const Halves = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 334px;
  gap: 36px;
  flex: 1;
  min-height: 0;
  @media (max-width: 800px) { grid-template-columns: minmax(0, 1fr); gap: 18px; }
`

const Phrases = styled.div`
  display: grid;
  gap: 14px;
  align-content: start;
  overflow-y: auto;
  max-height: calc(100dvh - 250px);
  padding: 4px;
  h2 { font-size: 15px; color: ${floor.quiet}; margin-bottom: 6px; display: flex; gap: 8px; align-items: center; }
  h2 b { border-radius: 5px; padding: 1px 7px; font-size: 13px; }
  @media (max-width: 800px) { max-height: none; }
`

const Chips = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
  gap: 8px;
`

const Chip = styled.button<{ $chosen: boolean }>`
  text-align: left;
  border: 1.5px solid ${(p) => (p.$chosen ? floor.azalea : floor.line)};
  background: ${(p) => (p.$chosen ? floor.azalea : floor.card)};
  color: ${(p) => (p.$chosen ? '#2B0A1B' : floor.ink)};
  border-radius: 12px;
  padding: 9px 12px;
  cursor: pointer;
  min-height: 62px;
  strong { display: block; font: 700 17px/1.2 ${font.display}; }
  span { display: block; font-size: 12.5px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; color: ${(p) => (p.$chosen ? '#3C1228' : floor.quiet)}; }
`

const How = styled.div`
  display: grid;
  gap: 12px;
  align-content: start;
  overflow-y: auto;
  max-height: calc(100dvh - 208px);
  padding: 4px 10px 4px 4px;
  scrollbar-width: thin;
  scrollbar-color: ${floor.line} transparent;
  @media (max-width: 800px) { max-height: none; }
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
`

interface Props {
  id: string
  page: Page
  plan: DrillPlan
  onPlan: (plan: DrillPlan) => void
  mirrored: boolean
  onMirrored: (on: boolean) => void
  onDrill: () => void
  onRun: () => void
  onTiming: () => void
  trouble: string
  camera: ReturnType<typeof useCamera>
  take: Take | null
  forget: () => void
}

/** Before the drill: which phrases, how fast, what sounds. */
export function Setting({
  id,
  page,
  plan,
  onPlan,
  mirrored,
  onMirrored,
  onDrill,
  onRun,
  onTiming,
  trouble,
  camera,
  take,
  forget,
}: Props) {
  const routine = useRoutine((s) => s.routine)
  const first = page.placed[plan.first]
  const last = page.placed[plan.last]
  const { from, to } = rangeOf(page, routine, plan)
  const seconds =
    page.times.length > 1 ? (timeOfTick(page.times, to) - timeOfTick(page.times, from)) / plan.speed : 0
  return (
    <Dark>
      <TopLine>
        <span>
          <Link href={`/r/${id}/cue`}>Back to the desk</Link>
          &ensp;{routine.title}
        </span>
        <Link href={`/r/${id}/log`}>Log</Link>
      </TopLine>
      {trouble && <Alarm role="alert">{trouble}</Alarm>}
      <Halves>
        <div style={{ display: 'grid', gap: 14, alignContent: 'start', minWidth: 0 }}>
          <div>
            <h1>What do we drill?</h1>
            <p style={{ color: floor.quiet }}>
              Press the first phrase, then the last one if it is more than one.
            </p>
          </div>
          <PhraseChips page={page} plan={plan} onPlan={onPlan} mirrored={mirrored} />
        </div>
        <How>
          <div>
            <Level
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
              selectedKeys={[plan.layer ?? 'all']}
              onSelectionChange={(keys) => onPlan({ ...plan, layer: [...keys][0] as DrillPlan['layer'] })}
            >
              <ToggleButton id="all">All</ToggleButton>
              <ToggleButton id="feet">Feet alone</ToggleButton>
              <ToggleButton id="arms">Arms alone</ToggleButton>
            </Toggles>
          </div>
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
          <Flip isSelected={plan.countInEach} onChange={(countInEach) => onPlan({ ...plan, countInEach })}>
            Count in before every repetition <i aria-hidden />
          </Flip>
          <Flip isSelected={mirrored} onChange={onMirrored}>
            Mirrored view: left and right swapped <i aria-hidden />
          </Flip>
          <Flip isSelected={plan.toBack ?? false} onChange={(toBack) => onPlan({ ...plan, toBack })}>
            Danced to the back, without the mirror <i aria-hidden />
          </Flip>
          <Levels dark />
          <BesideChoice {...{ camera, take, forget }} />
          <OwnVoice />
          <PedalKeys />
        </How>
      </Halves>
      <p style={{ color: floor.quiet, fontSize: 14 }}>
        Warm up first. Enough clear floor, shoes that hold, water near. Stop on pain. Keep the sound at a
        comfortable level.
      </p>
      <Big>
        <Button look="strong" onPress={onDrill} isDisabled={!first}>
          <Repeat size={22} />
          <span>Drill {first && last ? rangeName(first, last) : ''}</span>{' '}
          <small>{clockText(seconds)} each · space</small>
        </Button>
        <Button look="dark" onPress={onRun} isDisabled={!first}>
          <Play size={22} /> Run it, full tempo <small>R</small>
        </Button>
        <Button look="dark" onPress={onTiming} isDisabled={!first}>
          <Target size={22} /> Timing <small>T</small>
        </Button>
      </Big>
    </Dark>
  )
}

/** "Eight 3", or "From 8" where the dance begins inside the phrase. */
function chipName(p: PlacedPhrase, start: number): string {
  if (start > p.start) return `From ${labelIn(p, start)}`
  if (p.phrase.pickUp) return 'Pick-up'
  return p.phrase.length === 8 ? `Eight ${p.inSection}` : `${p.phrase.length} counts`
}

function PhraseChips({ page, plan, onPlan, mirrored }: Pick<Props, 'page' | 'plan' | 'onPlan' | 'mirrored'>) {
  const routine = useRoutine((s) => s.routine)
  const all = useShown(routine)
  const { start, end } = excerptOf(routine)
  // The phrase pressed last, which the next press may extend; what is only proposed is no first press.
  const [anchor, setAnchor] = useState<number | null>(null)
  const shown = page.placed.filter((p) => p.end > start && p.start < end)
  const groups = new Map<PlacedPhrase['section'], PlacedPhrase[]>()
  for (const p of shown) groups.set(p.section, [...(groups.get(p.section) ?? []), p])
  const choose = (i: number, extend: boolean) => {
    const from = extend ? plan.first : anchor
    const goesOn = from !== null && i > from
    setAnchor(goesOn || i === anchor ? null : i)
    onPlan(goesOn ? { ...plan, first: from, last: i } : { ...plan, first: i, last: i })
  }
  return (
    <Phrases>
      {[...groups].map(([section, list]) => (
        <div key={section?.id ?? 'none'}>
          <h2>
            {section ? (
              <>
                <b style={{ background: tintOf(section.letter).ground, color: tintOf(section.letter).ink }}>
                  {section.letter}
                </b>{' '}
                {sectionTitle(section)}
              </>
            ) : (
              'Before the first section'
            )}
          </h2>
          <Chips>
            {list.map((p) => {
              const chosen = p.index >= plan.first && p.index <= plan.last
              const words = cuesIn(all, p.start, p.end)
                .map((c) => cueText(c, mirrored))
                .join(', ')
              return (
                <Chip
                  key={p.phrase.id}
                  type="button"
                  $chosen={chosen}
                  aria-pressed={chosen}
                  onClick={(e) => choose(p.index, e.shiftKey)}
                >
                  <strong>{chipName(p, start)}</strong>
                  <span>{clockText(timeOfTick(page.times, p.start))}</span>
                  <span>{words || 'no cues yet'}</span>
                </Chip>
              )
            })}
          </Chips>
        </div>
      ))}
    </Phrases>
  )
}
