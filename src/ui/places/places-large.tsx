'use client'

import { X } from 'lucide-react'
import { type RefObject, useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { formationsAt } from '@/core/places'
import { tickName } from '@/core/routine'
import { formationHere } from '@/core/station'
import { Button } from '../parts/button'
import { OverSheet } from '../parts/panel'
import { fileName } from '../parts/save-file'
import { useCursor } from '../state/cursor'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { useView } from '../state/view'
import { desk } from '../theme/tokens'
import { FormationStrip } from './formation-strip'
import { formationName, GroupPlan } from './group-plan'
import { PathPart } from './path-part'
import { usePlaces } from './places-store'
import { fittingPixels } from './plan'
import { viewOf } from './plan-view'
import { saveAsPng, saveAsSvg } from './save-plan'
import { usePath } from './use-places'

const Head = styled.div`
  display: flex;
  align-items: baseline;
  gap: 12px;
  /* One line however long the names are: the plan has what is left of the height. */
  > * { flex: none; }
  h2 { margin: 0; flex: 0 1 auto; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { color: ${desk.quiet}; font-size: 14px; }
  > :last-child { margin-left: auto; align-self: center; }
`

/** The plan of the floor as large as the sheet, with the formations in a row below. */
export function PlacesLarge({ page }: { page: Page }) {
  const show = useView((v) => v.show)
  const group = useGroup()
  const box = useRef<HTMLElement>(null)
  const space = useRoutine((s) => s.routine.space)
  const standing = usePlaces((s) => s.standing)
  const { path, begin } = usePath()
  const view = viewOf(space, group ? null : { path, begin }, group ? standing : null)
  const { wide, high } = useRoomFor(box)
  // What stands above and below the plan.
  const pixels = fittingPixels(view, wide - 40, high - (group ? 178 : 210))
  return (
    <OverSheet ref={box} aria-label="Plan of the floor" data-testid="plan-large">
      <Head>
        <Title page={page} />
        <SavePlan of={box} page={page} />
        <Button
          small
          look="quiet"
          aria-label="Close the large plan"
          onPress={() => show({ planLarge: false })}
        >
          <X size={16} />
        </Button>
      </Head>
      <div style={{ width: pixels, justifySelf: 'center' }}>
        {group ? <GroupPlan page={page} pixels={pixels} /> : <PathPart page={page} pixels={pixels} />}
      </div>
      {group && <FormationStrip page={page} />}
    </OverSheet>
  )
}

/** The plan as a picture of its own. */
function SavePlan({ of, page }: { of: RefObject<HTMLElement | null>; page: Page }) {
  const title = useRoutine((s) => s.routine.title)
  const tick = useCursor((s) => s.tick)
  const [problem, setProblem] = useState('')
  const save = async (as: (svg: SVGSVGElement, name: string) => unknown) => {
    const svg = of.current?.querySelector<SVGSVGElement>('[data-testid=plan]')
    setProblem('')
    try {
      if (svg) await as(svg, fileName(`${title}, ${tickName(page.placed, tick)}`))
    } catch (error) {
      setProblem(said(error))
    }
  }
  return (
    <>
      <Button small onPress={() => save(saveAsPng)}>
        Save as PNG
      </Button>
      <Button small onPress={() => save(saveAsSvg)}>
        Save as SVG
      </Button>
      {problem && <span role="alert">{problem}</span>}
    </>
  )
}

/** The plan is of several dancers. */
function useGroup(): boolean {
  const several = useRoutine((s) => s.routine.dancers.length > 1)
  return useView((v) => v.planOf === 'dancers') && several
}

/** "Arrow → Windows", and where that is. */
function Title({ page }: { page: Page }) {
  const standing = usePlaces((s) => s.standing)
  const tick = useCursor((s) => s.tick)
  const group = useGroup()
  const here = formationHere({ standing, tick })
  const { next } = formationsAt(standing, Math.max(tick, here?.at ?? 0))
  const title =
    group && here
      ? `${formationName(page, here)}${next ? ` → ${formationName(page, next)}` : ''}`
      : 'Path of the steps'
  return (
    <>
      <h2 title={title}>{title}</h2>
      <span>{tickName(page.placed, tick)}</span>
    </>
  )
}

/** How much room there is, in pixels. */
function useRoomFor(box: RefObject<HTMLElement | null>): { wide: number; high: number } {
  const [room, setRoom] = useState({ wide: 700, high: 620 })
  useEffect(() => {
    const element = box.current
    if (!element) return
    const watch = new ResizeObserver(() => setRoom({ wide: element.clientWidth, high: element.clientHeight }))
    watch.observe(element)
    return () => watch.disconnect()
  }, [box])
  return room
}
