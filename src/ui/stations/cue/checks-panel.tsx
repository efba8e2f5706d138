'use client'

import { useState } from 'react'
import styled from 'styled-components'
import type { Finding } from '@/core/choreo'
import { findingKey, letStand, lookAgain, placeName, setLeastGap } from '@/core/routine'
import { Button } from '../../parts/button'
import { Slide, Text } from '../../parts/field'
import { Part, Tools } from '../../parts/panel'
import { useCursor } from '../../state/cursor'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { desk } from '../../theme/tokens'
import { AlikePart } from './alike-part'
import { LeaningPart } from './breath-part'
import { useCue } from './cue-store'
import { useLeastGap } from './use-choreo'

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 9px;
`

const Card = styled.li<{ $here: boolean }>`
  display: grid;
  gap: 7px;
  padding: 10px 12px;
  border: 1.5px solid ${(p) => (p.$here ? desk.azalea : desk.amber)};
  border-radius: 10px;
  background: ${(p) => (p.$here ? desk.azaleaSoft : desk.amberSoft)};
  font-size: 13.5px;
  em { font-style: normal; color: ${desk.quiet}; }
`

/** A finding of the dance: where, why, and what can be done. */
function FindingCard({ finding, here }: { finding: Finding; here: boolean }) {
  const edit = useRoutine((s) => s.edit)
  const to = useCursor((s) => s.to)
  const [asking, setAsking] = useState(false)
  const [reason, setReason] = useState('')
  const stand = () => {
    edit('let a finding stand', (r) => letStand(r, finding.about, reason.trim()))
  }
  return (
    <Card $here={here} data-testid="finding" data-kind={finding.kind}>
      <span>{finding.says}</span>
      <em>{finding.why}</em>
      {asking ? (
        <>
          <Text
            label="Why it may stand"
            value={reason}
            onChange={setReason}
            onEnter={stand}
            placeholder="wanted so"
          />
          <Tools>
            <Button small look="strong" onPress={stand}>
              Let it stand
            </Button>
            <Button small look="quiet" onPress={() => setAsking(false)}>
              Not yet
            </Button>
          </Tools>
        </>
      ) : (
        <Tools>
          <Button small onPress={() => to(finding.at, finding.layer)}>
            Go there
          </Button>
          {finding.mend && (
            <Button
              small
              look="strong"
              onPress={() => edit(finding.mend?.name ?? '', (r) => finding.mend?.change(r) ?? r)}
            >
              {finding.mend.name}
            </Button>
          )}
          <Button small look="quiet" onPress={() => setAsking(true)}>
            Let it stand …
          </Button>
        </Tools>
      )}
    </Card>
  )
}

/** Everything the checks found, what was let stand, and the tightest places. */
export function ChecksPanel({ page }: { page: Page }) {
  const alikes = useCue((s) => s.alikes)
  const leaning = useCue((s) => s.leaning)
  const edit = useRoutine((s) => s.edit)
  const { seconds: leastGap, said, grade } = useLeastGap(page)
  const dismissed = useRoutine((s) => s.routine.dismissed.length)
  const cues = useRoutine((s) => s.routine.cues.length)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const [gap, setGap] = useState<number | null>(null)
  const findings = useCue((s) => s.choreo.findings)
  const pace = useCue((s) => s.choreo.pace)
  const tight = page.placed
    .map((p, i) => ({ p, pace: pace[i] }))
    .filter(({ pace: x }) => x && x.leastGap !== null)
    .sort((a, b) => (a.pace?.leastGap ?? 9) - (b.pace?.leastGap ?? 9))
    .slice(0, 5)
  return (
    <>
      <Part>
        <h2>{findings.length ? `${findings.length} to look at` : 'Checks'}</h2>
        {findings.length === 0 && (
          <p data-testid="no-findings">
            {cues
              ? 'Nothing to mend: feet, walls, sides, levels and pace fit together, as far as they are written.'
              : 'Nothing is cued yet. The checks begin with the first cue.'}
          </p>
        )}
        <List>
          {findings.map((f) => (
            <FindingCard key={findingKey(f.about)} finding={f} here={f.at === tick} />
          ))}
        </List>
      </Part>
      <LeaningPart page={page} list={leaning} all />
      <AlikePart page={page} list={alikes} all />
      <Part>
        <h3>How fast learners can be</h3>
        <Slide
          label="Least time between two actions of a layer"
          name="Least gap"
          value={gap ?? leastGap}
          min={0.1}
          max={1}
          step={0.05}
          onChange={setGap}
          onEnd={(g) => {
            setGap(null)
            edit('change the least gap', (r) => setLeastGap(r, g))
          }}
          text={(x) => `${x.toFixed(2)} s`}
        />
        {said ? (
          <Tools>
            <Button
              small
              look="quiet"
              onPress={() => edit('the usual least gap', (r) => setLeastGap(r, null))}
            >
              As usual for {grade}
            </Button>
          </Tools>
        ) : (
          <p>Azalea’s own for {grade} at this tempo, until you say what yours need.</p>
        )}
      </Part>
      {tight.length > 0 && (
        <Part>
          <h3>Tightest places</h3>
          <Tools>
            {tight.map(({ p, pace: x }) => (
              <Button key={p.index} small look="quiet" onPress={() => to(x?.tightest?.[0].at ?? p.start)}>
                {placeName(p)}: {x?.leastGap?.toFixed(2)} s
              </Button>
            ))}
          </Tools>
        </Part>
      )}
      {dismissed > 0 && (
        <Part>
          <h3>Let stand</h3>
          <p>{dismissed === 1 ? 'One finding was' : `${dismissed} findings were`} let stand.</p>
          <Tools>
            <Button small look="quiet" onPress={() => edit('look at all findings again', lookAgain)}>
              Look at them again
            </Button>
          </Tools>
        </Part>
      )}
    </>
  )
}
