'use client'

import styled from 'styled-components'
import type { SheetRow } from '@/core/handout'
import { desk, font } from '../../theme/tokens'

const Paper = styled.article<{ $big: boolean }>`
  background: #fff;
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
  .cues { display: grid; grid-template-columns: repeat(var(--n), minmax(0, 1fr)); }
  .cues span { border: 1px solid #8C7A90; border-radius: 4px; padding: 1px 3px; margin-right: 2px; overflow-wrap: anywhere; min-width: 0; }
  .more { color: ${desk.quiet}; font-size: 0.88em; margin-left: 8em; }
`

/** Half counts are the finest columns of the page; a cue begins in the one it lies in. */
const UNIT = 6

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
  return (
    <Paper $big={big} data-testid="sheet-preview">
      <header>
        <h2>{title}</h2>
        <p>{credit}</p>
      </header>
      {rows.map((row) => (
        <OneRow key={row.from} row={row} />
      ))}
    </Paper>
  )
}

function OneRow({ row }: { row: SheetRow }) {
  const across = Math.max(row.length, 192)
  const left = (at: number) => `${(at / across) * 100}%`
  const column = (at: number) => Math.round(at / UNIT) + 1
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
          </div>
        </div>
        {row.again && (
          <div className="line">
            <span />
            <strong>{row.again}</strong>
          </div>
        )}
        {row.lanes.map((lane) =>
          lane.lines.map((line, i) => (
            <div className="line" key={`${lane.layer} ${line[0]?.at}`}>
              <span className="name">{i === 0 ? lane.layer : ''}</span>
              <div className="cues" style={{ '--n': Math.ceil(across / UNIT) } as never}>
                {line.map((c) => (
                  <span
                    key={c.at}
                    style={{
                      gridRow: 1,
                      gridColumn: `${column(c.at)} / ${Math.max(column(c.at) + 1, column(c.at + c.length))}`,
                    }}
                  >
                    {c.text}
                  </span>
                ))}
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
        {[row.wall && `ends facing the ${row.wall}`, row.lyric && `“${row.lyric}”`, ...row.notes]
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
