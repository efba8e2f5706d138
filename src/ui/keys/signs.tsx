'use client'

import type { ReactNode } from 'react'
import styled from 'styled-components'
import { SOLE } from '../sheet/footing'
import { desk, faded, font } from '../theme/tokens'
import type { StationName } from './table'

const List = styled.ul`
  margin: 0 0 20px;
  padding: 0;
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(270px, 100%), 1fr));
  gap: 8px 24px;
  font-size: 13.5px;
  li { display: grid; grid-template-columns: 52px minmax(0, 1fr); gap: 10px; align-items: center; }
  svg { display: block; margin: auto; overflow: visible; }
`

const Box = styled.i<{ $round?: boolean; $look?: 'linked' | 'differs' | 'carried' }>`
  position: relative;
  display: block;
  height: 20px;
  border: 1.5px ${(p) => (p.$look === 'linked' ? 'dashed' : 'solid')} ${desk.rule};
  border-radius: ${(p) => (p.$round ? 11 : 5)}px;
  background: ${desk.card};
  font: 600 12.5px/17px ${font.text};
  text-align: center;
  ${(p) => p.$look === 'differs' && `border-left: 6px double ${desk.azalea};`}
  ${(p) => p.$look === 'carried' && 'border-left: none; border-radius: 0 9px 9px 0;'}
`

const Border = styled.i`
  display: block;
  height: 22px;
  border: 0 solid ${desk.azalea};
  border-width: 2.5px 0 0 2.5px;
  border-radius: 7px 0 0 0;
  background: repeating-linear-gradient(45deg, ${faded(desk.azalea, 20)} 0 2px, transparent 2px 7px);
`

const Word = styled.i<{ $sound?: boolean }>`
  display: block;
  padding-left: 5px;
  border-left: 2px ${(p) => (p.$sound ? `dashed ${desk.azalea}` : `solid ${desk.quiet}`)};
  font-style: ${(p) => (p.$sound ? 'italic' : 'normal')};
  color: ${(p) => (p.$sound ? desk.azalea : desk.ink)};
`

const Flag = styled.i`
  padding: 0 7px;
  border-radius: 0 0 8px 0;
  background: ${desk.ink};
  color: ${desk.paper};
  font: 400 11.5px/17px ${font.text};
`

const Feet = ({ dashed = false }: { dashed?: boolean }) => (
  <svg width={20} height={17} aria-hidden>
    {[0, 12].map((x, i) => (
      <path
        key={x}
        d={SOLE}
        transform={`translate(${x} 0)`}
        fill={i === 0 && !dashed ? desk.ink : desk.card}
        stroke={dashed ? desk.faint : desk.ink}
        strokeWidth={1.3}
        strokeDasharray={dashed ? '2 2' : undefined}
      />
    ))}
  </svg>
)

type Sign = readonly [sign: ReactNode, means: string]

const OF_CUES: readonly Sign[] = [
  [<Box key="s">step R</Box>, 'a square box: what the feet do'],
  [
    <Box key="s" $round>
      clap
    </Box>,
    'a round box: arms and all others',
  ],
  [
    <Box key="s" $look="linked">
      step R
    </Box>,
    'danced again: it changes where it was first written',
  ],
  [
    <Box key="s" $look="differs">
      kick
    </Box>,
    'danced again, and different here',
  ],
  [
    <Box key="s" $look="carried">
      hold
    </Box>,
    'goes on from the row before',
  ],
  [
    <Box key="s">
      walk
      <i
        style={{ position: 'absolute', left: 0, bottom: -1.5, width: 20, height: 3, background: desk.ink }}
      />
    </Box>,
    'its words are longer than the move, which lasts as long as the line',
  ],
  [<Box key="s">♪ hey</Box>, 'falls on a word or a sound, wherever its count is'],
  [<Feet key="s" />, 'filled: the foot that carries the weight'],
  [<Feet key="s" dashed />, 'which foot carries the weight is not known'],
  [
    <svg key="s" width={10} height={14} aria-hidden>
      <path d="M0 -7 L4 5 L0 2.6 L-4 5 Z" transform="translate(5 7) rotate(90)" fill={desk.azalea} />
    </svg>,
    'where the dancer faces, up being the front',
  ],
  [<Border key="s" />, 'belongs to what follows; hooked on the right, to what came before, too'],
  [<b key="s">0.56 s</b>, 'beside a row: the least time between two actions'],
]

const OF_SONG: readonly Sign[] = [
  [<Word key="s">hello</Word>, 'words that are sung'],
  [
    <Word key="s" $sound>
      clap
    </Word>,
    'a sound of the song',
  ],
  [<Flag key="s">Half</Flag>, 'a part of your own begins'],
  [
    <svg key="s" width={10} height={7} aria-hidden>
      <path d="M5 0 L10 7 L0 7 Z" fill={desk.amber} />
    </svg>,
    'where Azalea is not sure how the song counts',
  ],
  [
    <i
      key="s"
      style={{ display: 'block', height: 20, border: `2px solid ${desk.ink}`, borderRadius: 6 }}
      aria-hidden
    />,
    'the part of the song that is danced',
  ],
]

const SIGNS: Partial<Record<StationName, readonly Sign[]>> = { count: OF_SONG, cue: [...OF_CUES, ...OF_SONG] }

/** What is drawn on the sheet of a station, and what it means. Drawn here once more: on the sheet each sign is part of its row. */
export function Signs({ station }: { station: StationName }) {
  const list = SIGNS[station]
  if (!list) return null
  return (
    <>
      <h3>Signs on the page</h3>
      <List>
        {list.map(([sign, means]) => (
          <li key={means}>
            <span aria-hidden>{sign}</span>
            {means}
          </li>
        ))}
      </List>
    </>
  )
}
