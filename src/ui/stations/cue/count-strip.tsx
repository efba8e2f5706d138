'use client'

import { Label, Slider, SliderThumb, SliderTrack } from 'react-aria-components'
import styled from 'styled-components'
import { countsIn, labelIn, type PlacedPhrase } from '@/core/routine'
import { type Stretch, TICKS_PER_COUNT } from '@/core/time'
import { Wave } from '../../sheet/wave'
import { type Page, useSong } from '../../state/page'
import { desk } from '../../theme/tokens'

const Box = styled(Slider)`
  display: grid;
  gap: 4px;
  .react-aria-Label { font-size: 13px; color: ${desk.quiet}; font-weight: 500; }
`

const Track = styled(SliderTrack)`
  position: relative;
  height: 46px;
  margin: 0 7px;
  border-radius: 7px;
  background: ${desk.card};
  outline: 1.5px solid ${desk.line};
  cursor: ew-resize;
  touch-action: none;
`

const Taken = styled.span`
  position: absolute;
  inset-block: 0;
  background: ${desk.azaleaSoft};
  border-radius: 5px;
`

const Numbers = styled.span`
  position: absolute;
  inset: 1px 0 auto;
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  font-size: 11px;
  color: ${desk.quiet};
  pointer-events: none;
  i { font-style: normal; padding-left: 3px; border-left: 1px solid ${desk.line}; }
`

const Sound = styled.span`
  position: absolute;
  inset: 16px 0 2px;
  pointer-events: none;
`

const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 12px;
  height: 50px;
  border-radius: 6px;
  border: 2px solid ${desk.azalea};
  background: ${desk.card};
  &[data-focus-visible] { outline: 2.5px solid ${desk.ink}; outline-offset: 1px; }
`

interface Props {
  page: Page
  label: string
  of: PlacedPhrase
  value: Stretch
  /** True where the length is given and only its place is chosen. */
  fixed: boolean
  onChange: (stretch: Stretch) => void
}

/** Counts of a phrase, chosen by pulling either end over its sound. */
export function CountStrip({ page, label, of, value, fixed, onChange }: Props) {
  const { heard } = useSong()
  const counts = of.phrase.length
  const [from, to] = [value.from, value.to].map((t) => Math.round((t - of.start) / TICKS_PER_COUNT)) as [
    number,
    number,
  ]
  const length = to - from
  const set = (next: number | number[]) => {
    let [a = 0, b = counts] = [next].flat()
    if (fixed) {
      // The whole of it moves with whichever end is pulled.
      a = Math.max(0, Math.min(counts - length, a !== from ? a : b - length))
      b = a + length
    } else if (b <= a) [a, b] = a !== from ? [b - 1, b] : [a, a + 1]
    if (a < 0 || b > counts) return
    onChange({ from: of.start + a * TICKS_PER_COUNT, to: of.start + b * TICKS_PER_COUNT })
  }
  return (
    <Box value={[from, to]} minValue={0} maxValue={counts} step={1} onChange={set}>
      <Label>
        {label}: {labelIn(of, value.from)} to {labelIn(of, value.to - TICKS_PER_COUNT)}
      </Label>
      <Track>
        <Taken style={{ left: `${(100 * from) / counts}%`, width: `${(100 * length) / counts}%` }} />
        <Numbers aria-hidden>
          {Array.from({ length: counts }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a count has nothing but its number
            <i key={i}>{of.first + i}</i>
          ))}
        </Numbers>
        {heard && (
          <Sound>
            <Wave
              peaks={heard.peaks}
              times={page.times}
              from={of.start}
              counts={countsIn({ from: of.start, to: of.end })}
              columns={counts}
              height={28}
              colour={desk.faint}
            />
          </Sound>
        )}
        <Thumb index={0} aria-label="From count" />
        <Thumb index={1} aria-label="Up to count" />
      </Track>
    </Box>
  )
}
