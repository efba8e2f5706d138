import { Document, Image, Page, renderToBuffer, StyleSheet, Text, View } from '@react-pdf/renderer'
import { type PageStills, PLAN_SHAPE, type SetCue, type SheetRow, setRow, spokenRow } from '@/core/handout'
import { TICKS_PER_COUNT, type Ticks } from '@/core/time'
import { sheetType, type Type } from './sheet-fonts'
import { Tag } from './sheet-tags'
import { Way } from './sheet-way'

export interface Paper {
  size: 'A4' | 'LETTER'
  across: boolean
  /** For the wall of a studio: big, half as many eights a page. */
  wall: boolean
  /** Pictures of counts, over their cues. */
  stills?: PageStills | null
  /** Sides are seen as in a mirror. */
  mirrored?: boolean
}

export interface SheetHead {
  title: string
  credit: string
  /** "8 eights, 0:36 of the song, for beginners". */
  facts: string
  language: string
}

/** Points of the paper, and of what is set on it. */
const SIZES = { A4: [595.28, 841.89], LETTER: [612, 792] } as const
const MARGIN = 34
const SIDE = 54
/** Border, padding and gap of a cue. */
const FRAME = 5
const GREY = '#6B5B6E'

const setting = (wall: boolean) => {
  const k = wall ? 1.9 : 1
  return { k, cue: wall ? [17, 14, 12, 10] : [9, 8, 7, 6.5], side: SIDE * (wall ? 1.35 : 1) }
}

/**
 * The cue sheet as a PDF: text that can be chosen, fonts embedded, title and language set.
 * @returns the file, and letters no font of the app has, which stay empty on paper
 */
export async function sheetPdf(
  said: readonly SheetRow[],
  saidHead: SheetHead,
  paper: Paper,
): Promise<{ pdf: Buffer; missing: string[] }> {
  const { rows, head } = inPieces({ rows: said, head: saidHead })
  const letters = lettersOf(rows, head)
  const type = await sheetType(letters)
  const [w, h] = SIZES[paper.size]
  const width = (paper.across ? h : w) - 2 * MARGIN
  const { k } = setting(paper.wall)
  const pdf = await renderToBuffer(
    <Document
      title={head.title}
      author={head.credit}
      language={head.language}
      creator="Azalea"
      producer="Azalea"
    >
      <Page
        size={paper.size}
        orientation={paper.across ? 'landscape' : 'portrait'}
        style={{
          padding: MARGIN,
          paddingBottom: MARGIN + 12,
          fontFamily: type.text as never,
          fontSize: 9,
          color: '#1F1523',
        }}
      >
        <View style={{ marginBottom: 10 }}>
          <Tag as="H1" />
          <Text style={{ fontFamily: type.display as never, fontWeight: 700, fontSize: 18 * Math.sqrt(k) }}>
            {head.title}
          </Text>
          <Tag as="P" />
          <Text style={{ color: GREY, fontSize: 9 * Math.sqrt(k) }}>
            {[head.credit, head.facts].filter(Boolean).join(' · ')}
          </Text>
        </View>
        {rows.map((row) => (
          <Row key={row.from} row={row} width={width} paper={paper} type={type} />
        ))}
        <View fixed style={{ position: 'absolute', bottom: 20, left: MARGIN, right: MARGIN }}>
          <Tag as="Artifact" />
          <Text
            style={{ fontSize: 8, color: GREY, textAlign: 'right' }}
            render={({ pageNumber, totalPages }) => `${head.title} · ${pageNumber} of ${totalPages}`}
          />
        </View>
      </Page>
    </Document>,
  )
  return { pdf, missing: type.missing(letters) }
}

/** Thai's ำ is drawn as two; what sets paper keeps only the first of them, so both are written. A tone stands above the first. */
const inPieces = <T,>(words: T): T =>
  JSON.parse(JSON.stringify(words), (_, word) =>
    typeof word === 'string' ? word.replace(/([\u0e48-\u0e4b]?)\u0e33/g, '\u0e4d$1\u0e32') : word,
  )

const lettersOf = (rows: readonly SheetRow[], head: SheetHead) =>
  [
    head.title,
    head.credit,
    ...rows.flatMap((r) => [
      r.heading,
      r.title,
      r.again,
      r.lyric,
      ...r.plans.flatMap((p) => [p.name, ...p.people.map((x) => x.letters)]),
      ...r.notes,
      ...r.lanes.flatMap((l) => l.lines.flatMap((x) => x.map((c) => c.text))),
    ]),
  ].join('')

/** A picture a count, of those there are. */
function Stills({
  row,
  paper: { stills, mirrored = false, wall },
  x,
  side,
  across,
}: {
  row: SheetRow
  paper: Paper
  x: (t: Ticks) => number
  side: number
  across: number
}) {
  const there = row.counts.filter((c) => stills?.pictures[row.from + c.at])
  if (!stills || !there.length) return null
  const wide = Math.min(x(TICKS_PER_COUNT) - x(0) - 3, wall ? 120 : 64)
  const high = (wide * 9) / 16
  const turned = stills.mirrored !== mirrored
  return (
    <View style={{ ...styles.line, marginTop: 1, marginBottom: 2 }}>
      <View style={{ width: side }} />
      <View style={{ width: across, height: high }}>
        <Tag as="Artifact" />
        {there.map((c) => (
          <View key={c.at} style={{ position: 'absolute', left: x(c.at), width: wide, height: high }}>
            <Image
              src={`data:image/jpeg;base64,${stills.pictures[row.from + c.at]}`}
              style={{
                ...{ width: wide, height: high, objectFit: 'contain', backgroundColor: '#000' },
                ...(turned ? { transform: 'scaleX(-1)' } : {}),
              }}
            />
          </View>
        ))}
      </View>
    </View>
  )
}

/** Formations over the counts they begin on: letters in rings, and in squares for every second role. */
function Plans({
  row,
  k,
  x,
  side,
  across,
}: {
  row: SheetRow
  k: number
  x: (t: Ticks) => number
  side: number
  across: number
}) {
  if (!row.plans.length) return null
  const wide = 96 * Math.sqrt(k)
  const high = wide / PLAN_SHAPE
  const size = 9 * Math.sqrt(k)
  return (
    <View style={{ ...styles.line, marginTop: 1, marginBottom: 3 }}>
      <View style={{ width: side }} />
      <View style={{ width: across, height: high + size + 2 }}>
        <Tag as="Artifact" />
        {row.plans.map((plan) => (
          <View
            key={plan.at}
            style={{ position: 'absolute', left: Math.min(x(plan.at), across - wide), width: wide }}
          >
            <Text style={{ fontSize: size * 0.85, color: GREY }}>{plan.name || 'formation'}</Text>
            <View style={{ ...styles.plan, height: high }}>
              {plan.people.map((p) => (
                <View
                  key={p.letters}
                  style={{
                    ...styles.person,
                    ...{ width: size + 2, height: size + 2, borderRadius: p.role % 2 ? 1 : (size + 2) / 2 },
                    left: p.x * wide - size / 2 - 1,
                    top: Math.min(high - size - 3, p.y * high),
                  }}
                >
                  <Text style={{ fontSize: size * 0.66, fontWeight: 700, textAlign: 'center' }}>
                    {p.letters}
                  </Text>
                </View>
              ))}
            </View>
          </View>
        ))}
      </View>
    </View>
  )
}

function Row({ row, width, paper, type }: { row: SheetRow; width: number; paper: Paper; type: Type }) {
  const { k, cue: sizes, side } = setting(paper.wall)
  const across = width - side
  // A long row of counts is drawn in the width there is; an eight is as wide as the page.
  const x = (t: Ticks) => ((row.indent + t) / row.across) * across
  const small = { fontSize: 7.5 * Math.sqrt(k), color: GREY }
  const { lanes, foot } = setRow(row, across, sizes, type.measure, FRAME)
  return (
    <View wrap={false} style={{ marginBottom: 7 * k }}>
      {row.heading !== '' && (
        <>
          <Tag as="H2" />
          <Text
            style={{
              fontFamily: type.display as never,
              fontWeight: 700,
              fontSize: 12 * Math.sqrt(k),
              marginTop: 4,
              marginBottom: 3,
            }}
          >
            {row.heading}
          </Text>
        </>
      )}
      <Tag as="P" say={spokenRow(row)} />
      <View style={styles.line}>
        <View style={{ width: side }}>
          <Text style={{ fontWeight: 700, fontSize: 9 * Math.sqrt(k) }}>{row.title}</Text>
        </View>
        <View style={{ width: across, height: 11 * k }}>
          {row.counts.map((c) => (
            <Text
              key={c.at}
              style={{ position: 'absolute', left: x(c.at), fontWeight: 700, fontSize: 8.5 * k }}
            >
              {c.label}
            </Text>
          ))}
          {row.between.map((c) => (
            <Text key={c.at} style={{ position: 'absolute', left: x(c.at), color: GREY, fontSize: 8.5 * k }}>
              {c.label}
            </Text>
          ))}
        </View>
      </View>
      <Stills row={row} paper={paper} x={x} side={side} across={across} />
      <Plans row={row} k={k} x={x} side={side} across={across} />
      {row.again !== '' && (
        <View style={styles.line}>
          <Text style={{ width: side, ...small }}>{row.time}</Text>
          <Text style={{ width: across, fontSize: 9 * k }}>{row.again}</Text>
        </View>
      )}
      {lanes.map((lane, l) =>
        lane.lines.map((line, i) => (
          <View key={`${lane.layer} ${line[0]?.at}`} style={{ ...styles.line, marginTop: 1.5 }}>
            <Text style={{ width: side, ...small }}>
              {i === 0 ? `${l === 0 && !row.again ? `${row.time}  ` : ''}${lane.layer}` : ''}
            </Text>
            {line.map((c, n) => (
              <View
                key={c.at}
                style={{ marginLeft: c.left - endOf(line[n - 1]), width: c.width, paddingRight: 1.5 }}
              >
                <View style={styles.cue}>
                  <Text style={{ fontSize: c.size }}>{c.words}</Text>
                </View>
              </View>
            ))}
          </View>
        )),
      )}
      {row.feet.length > 0 && (
        <View style={{ ...styles.line, marginTop: 1 }}>
          <Text style={{ width: side, ...small }}>weight</Text>
          <View style={{ width: across, height: 9 * Math.sqrt(k) }}>
            {row.feet.map((f) => (
              <Text key={f.at} style={{ position: 'absolute', left: x(f.at), ...small }}>
                {f.words}
              </Text>
            ))}
          </View>
        </View>
      )}
      <Way row={row} side={side} small={small} />
      {[
        row.wall && `ends facing the ${row.wall}`,
        row.lyric && `“${row.lyric}”`,
        ...row.notes,
        ...foot.map((f, i) => `(${i + 1}) ${f}`),
      ]
        .filter((t): t is string => Boolean(t))
        .map((t) => (
          <Text key={t} style={{ marginLeft: side, ...small }}>
            {t}
          </Text>
        ))}
    </View>
  )
}

/** Where a cue ends; the next begins so much further on. */
const endOf = (c: SetCue | undefined) => (c ? c.left + c.width : 0)

const styles = StyleSheet.create({
  line: { flexDirection: 'row', alignItems: 'flex-start' },
  // The audience is on top, dashed.
  plan: { border: '0.7 solid #C9BCCB', borderTop: '1 dashed #8C7A90', borderRadius: 2 },
  person: {
    position: 'absolute',
    border: '0.8 solid #1F1523',
    backgroundColor: '#FFFFFF',
    justifyContent: 'center',
  },
  cue: { border: '0.7 solid #8C7A90', borderRadius: 3, paddingHorizontal: 1.5, paddingVertical: 0.8 },
})
