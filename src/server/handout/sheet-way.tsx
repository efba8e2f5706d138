import { Circle, Line, Polyline, Rect, Svg, Text, View } from '@react-pdf/renderer'
import { PLAN_SHAPE, type SheetPath, type SheetRow } from '@/core/handout'
import { Tag } from './sheet-tags'

const HIGH = 100
const WIDE = HIGH * PLAN_SHAPE

const pointsOf = (list: SheetPath['all']) => list.map(([x, y]) => `${x * WIDE},${y * HIGH}`).join(' ')

/** Where the steps of a row lead: drawn beside its counts, and in words. */
export function Way({
  row: { way, path },
  side,
  small,
}: {
  row: Pick<SheetRow, 'way' | 'path'>
  side: number
  small: { fontSize: number; color: string }
}) {
  if (!way) return null
  const wide = side - 6
  return (
    <View style={{ flexDirection: 'row', alignItems: 'flex-start', marginTop: path ? 2 : 0 }}>
      <View style={{ width: side }}>
        {path && (
          <>
            <Tag as="Artifact" />
            <PathPicture path={path} wide={wide} />
          </>
        )}
      </View>
      <Text style={small}>{way}</Text>
    </View>
  )
}

/** The whole way pale, that of the row dark, from the square to the round; dashed where it is not certain. */
function PathPicture({ path: { all, row, uncertain }, wide }: { path: SheetPath; wide: number }) {
  const [[x0, y0] = [0, 0], [x1, y1] = [0, 0]] = [row[0], row.at(-1)]
  return (
    <Svg viewBox={`0 0 ${WIDE} ${HIGH}`} style={{ width: wide, height: wide / PLAN_SHAPE }}>
      <Rect x={1} y={1} width={WIDE - 2} height={HIGH - 2} fill="none" stroke="#C9BCCB" strokeWidth={2} />
      <Line x1={0} x2={WIDE} y1={2} y2={2} stroke="#8C7A90" strokeWidth={4} strokeDasharray="6 6" />
      <Polyline points={pointsOf(all)} fill="none" stroke="#C9BCCB" strokeWidth={4} />
      <Polyline
        points={pointsOf(row)}
        fill="none"
        stroke="#1F1523"
        strokeWidth={5}
        {...(uncertain ? { strokeDasharray: '8 6' } : {})}
      />
      <Rect x={x0 * WIDE - 5} y={y0 * HIGH - 5} width={10} height={10} fill="#1F1523" />
      <Circle cx={x1 * WIDE} cy={y1 * HIGH} r={7} fill="#FFFFFF" stroke="#1F1523" strokeWidth={4} />
    </Svg>
  )
}
