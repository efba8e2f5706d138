'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { type Measure, type SheetRow, setRow } from '@/core/handout'
import { useTypeLoaded, widthOfText } from '../../sheet/text-width'
import { BY_DAY } from '../../theme/palette'
import { desk, font } from '../../theme/tokens'
import { SheetPathPicture, SheetPlanPicture } from './sheet-pictures'

const Paper = styled.article<{ $big: boolean }>`
  /* As it will be on paper. */
  ${BY_DAY}
  background: ${desk.card};
  color: ${desk.ink};
  border: 1px solid ${desk.line};
  border-radius: 4px;
  padding: clamp(14px, 2vw, 28px);
  font-size: ${(p) => (p.$big ? 19 : 12.5)}px;
  display: grid;
  gap: 1.1em;
  min-width: 0;
  h2 { font-size: 2em; margin: 0; }
  h3 { font: 700 1.25em/1.2 ${font.display}; margin: 0.5em 0 0; }
  header p { color: ${desk.quiet}; margin: 0; }
  @media print { border: 0; padding: 0; min-width: 0; h3, section { break-inside: avoid; } }
`

const Row = styled.section`
  display: grid;
  gap: 2px;
  .line { display: grid; grid-template-columns: 7em minmax(0, 1fr); align-items: start; }
  .name { color: ${desk.quiet}; font-size: 0.86em; padding-top: 2px; }
  .name strong { color: ${desk.ink}; font-size: 1.12em; }
  .counts { position: relative; height: 1.35em; font-weight: 700; }
  .counts span { position: absolute; }
  .between { font-weight: 400; color: ${desk.quiet}; }
  .cues { display: flex; align-items: flex-start; }
  .cues > span { flex: none; padding-right: 2px; min-width: 0; }
  .cues > span > span { display: block; border: 1px solid #8C7A90; border-radius: 4px; padding: 0 3px; line-height: 1.3; overflow-wrap: anywhere; }
  .way { color: ${desk.quiet}; font-size: 0.88em; }
  .more { color: ${desk.quiet}; font-size: 0.88em; margin-left: 8em; }
`

/** Sizes of the type, in pixels; what fits at none of them stands below its row. */
const SIZES = { page: [12.5, 11.5, 10.5], wall: [19, 17, 15, 12.5] }
/** How wide the counts are taken to be before the page was seen, in pixels. */
const UNSEEN = 560
/** Border, padding and gap of a cue, in pixels. */
const FRAME = 10
/** The column of names beside the counts, in ems. */
const SIDE = 7

/** How wide the counts of a row are on the page, in pixels, as the page is now; null before that is known. */
function useAcross(): [(paper: HTMLElement | null) => void, number | null] {
  const [paper, setPaper] = useState<HTMLElement | null>(null)
  const [across, setAcross] = useState<number | null>(null)
  useEffect(() => {
    if (!paper) return
    const see = () => {
      const { fontSize, paddingLeft, paddingRight } = getComputedStyle(paper)
      const [size, left, right] = [fontSize, paddingLeft, paddingRight].map(Number.parseFloat)
      const wide = paper.clientWidth - (left ?? 0) - (right ?? 0) - SIDE * (size ?? 0)
      setAcross(Math.max(200, Math.round(wide)))
    }
    const watch = new ResizeObserver(see)
    watch.observe(paper)
    see()
    return () => watch.disconnect()
  }, [paper])
  return [setPaper, across]
}

/** The server knows no widths: at first everything stands in its own counts. @param loaded how often type was loaded; null before */
const measureBy = (loaded: number | null): Measure =>
  loaded === null ? () => 0 : (text, size) => widthOfText(text, `400 ${size}px`)

/** The rows of a cue sheet on the page, as they are printed. */
export function SheetRows({
  rows,
  title,
  credit,
  big,
}: {
  rows: readonly SheetRow[]
  title: string
  credit: string
  big: boolean
}) {
  const [paper, seen] = useAcross()
  const across = seen ?? UNSEEN
  const loaded = useTypeLoaded()
  const sizes = big ? SIZES.wall : SIZES.page
  const measure = measureBy(seen === null ? null : loaded)
  const set = rows.map((row) => setRow(row, across, sizes, measure, FRAME))
  return (
    <Paper $big={big} data-testid="sheet-preview" ref={paper}>
      <header>
        <h2>{title}</h2>
        <p>{credit}</p>
      </header>
      {rows.map((row, i) => (
        <OneRow key={row.from} row={row} set={set[i] as RowSet} across={across} />
      ))}
    </Paper>
  )
}

type RowSet = ReturnType<typeof setRow>

function OneRow({ row, set, across }: { row: SheetRow; set: RowSet; across: number }) {
  const left = (at: number) => `${((row.indent + at) / row.across) * 100}%`
  // In parts of the whole: paper is another width than the page.
  const part = (width: number) => `${(width / across) * 100}%`
  return (
    <>
      {row.heading && <h3>{row.heading}</h3>}
      <Row aria-label={`${row.title} ${row.time}`}>
        <div className="line">
          <span className="name">
            <strong>{row.title}</strong> {row.time}
          </span>
          <div className="counts">
            {row.counts.map((c) => (
              <span key={c.at} style={{ left: left(c.at) }}>
                {c.label}
              </span>
            ))}
            {row.between.map((c) => (
              <span key={c.at} className="between" style={{ left: left(c.at) }}>
                {c.label}
              </span>
            ))}
          </div>
        </div>
        {row.plans.map((plan) => (
          <div className="line" key={plan.at}>
            <span />
            <SheetPlanPicture plan={plan} left={left(plan.at)} />
          </div>
        ))}
        {row.again && (
          <div className="line">
            <span />
            <strong>{row.again}</strong>
          </div>
        )}
        {set.lanes.map((lane) =>
          lane.lines.map((line, i) => (
            <div className="line" key={`${lane.layer} ${line[0]?.at}`}>
              <span className="name">{i === 0 ? lane.layer : ''}</span>
              <div className="cues">
                {line.map((c, n) => {
                  const before = line[n - 1]
                  const gap = c.left - (before ? before.left + before.width : 0)
                  return (
                    <span key={c.at} style={{ marginLeft: part(gap), width: part(c.width) }}>
                      <span style={{ fontSize: c.size }}>{c.words}</span>
                    </span>
                  )
                })}
              </div>
            </div>
          )),
        )}
        {row.feet.length > 0 && (
          <div className="line">
            <span className="name">weight</span>
            <div className="counts" style={{ fontWeight: 400, fontSize: '0.86em' }}>
              {row.feet.map((f) => (
                <span key={f.at} style={{ left: left(f.at) }}>
                  {f.words}
                </span>
              ))}
            </div>
          </div>
        )}
        {row.way && (
          <div className="line">
            <span>{row.path && <SheetPathPicture path={row.path} />}</span>
            <span className="way">{row.way}</span>
          </div>
        )}
        {[
          row.wall && `ends facing the ${row.wall}`,
          row.lyric && `“${row.lyric}”`,
          ...row.notes,
          ...set.foot.map((f, i) => `(${i + 1}) ${f}`),
        ]
          .filter(Boolean)
          .map((t) => (
            <div className="more" key={String(t)}>
              {t}
            </div>
          ))}
      </Row>
    </>
  )
}
