import { figure, type Pose, type Spot } from '@/core/choreo'
import type { FilmMoment } from '@/core/film'
import { familiesNow } from '../sheet/text-width'
import { floor, font } from '../theme/tokens'

type Pen = OffscreenCanvasRenderingContext2D

/** What is in the picture beside its words. */
export interface Backdrop {
  /** A picture of a film; null where none is shown. */
  film: CanvasImageSource | null
  size: { width: number; height: number } | null
  /** The picture is turned, so that sides are seen as they are danced. */
  turned: boolean
  figure: boolean
}

/** Draws a moment of a practice film: the film, or the figure, or the counts alone; count, cue and caution in the picture. */
export function drawMoment(
  pen: Pen,
  width: number,
  height: number,
  moment: FilmMoment,
  back: Backdrop,
): void {
  pen.fillStyle = floor.ground
  pen.fillRect(0, 0, width, height)
  if (back.film && back.size) drawFilm(pen, width, height, back.film, back.size, back.turned)
  else if (back.figure) drawFigure(pen, moment.pose, width / 2, height * 0.66, height * 0.52)
  drawCount(pen, width, height, moment, !back.film && !back.figure)
  drawWords(pen, width, height, moment)
}

function drawFilm(
  pen: Pen,
  width: number,
  height: number,
  film: CanvasImageSource,
  size: { width: number; height: number },
  turned: boolean,
): void {
  const scale = Math.min(width / size.width, height / size.height)
  const [w, h] = [size.width * scale, size.height * scale]
  pen.save()
  pen.translate(width / 2, height / 2)
  if (turned) pen.scale(-1, 1)
  pen.drawImage(film, -w / 2, -h / 2, w, h)
  pen.restore()
}

const face = (weight: number, pixels: number, of: string = font.text) =>
  `${weight} ${Math.round(pixels)}px ${familiesNow(of)}`

/** So much of a text as has room. */
function fitting(pen: Pen, text: string, room: number): string {
  if (pen.measureText(text).width <= room) return text
  let end = text.length
  while (end > 1 && pen.measureText(`${text.slice(0, end).trimEnd()} …`).width > room) end--
  return `${text.slice(0, end).trimEnd()} …`
}

function drawCount(pen: Pen, width: number, height: number, moment: FilmMoment, alone: boolean): void {
  const unit = height / 720
  pen.textBaseline = 'alphabetic'
  if (moment.count) {
    const pixels = (alone ? 360 : 130) * unit
    pen.font = face(760, pixels, font.display)
    const [x, y] = alone ? [width / 2, height * 0.56] : [34 * unit, 130 * unit]
    pen.textAlign = alone ? 'center' : 'left'
    const text = moment.count + (moment.sub && ` ${moment.sub}`)
    pen.lineWidth = 12 * unit
    pen.lineJoin = 'round'
    pen.strokeStyle = 'rgb(0 0 0 / 0.7)'
    pen.strokeText(text, x, y)
    pen.fillStyle = moment.countingIn ? floor.azalea : floor.ink
    pen.fillText(text, x, y)
  }
  pen.font = face(650, 34 * unit, font.display)
  pen.textAlign = 'right'
  pen.lineWidth = 7 * unit
  pen.strokeStyle = 'rgb(0 0 0 / 0.7)'
  pen.strokeText(moment.speedName, width - 30 * unit, 56 * unit)
  pen.fillStyle = floor.ink
  pen.fillText(moment.speedName, width - 30 * unit, 56 * unit)
  pen.textAlign = 'left'
}

/** The words at the foot of the picture: what is danced, what beside it, what to mind, what is next. */
function drawWords(pen: Pen, width: number, height: number, moment: FilmMoment): void {
  const unit = height / 720
  const lines = [
    { text: moment.caution, font: face(700, 30 * unit), colour: '#E2A63B' },
    {
      text: moment.countingIn ? 'get ready' : moment.now,
      font: face(720, 54 * unit, font.display),
      colour: floor.ink,
    },
    { text: moment.beside, font: face(550, 30 * unit), colour: floor.ink },
    { text: moment.next && `next: ${moment.next}`, font: face(500, 27 * unit), colour: floor.quiet },
  ].filter((l) => l.text)
  if (!lines.length) return
  const heights = lines.map((l) => Number(/(\d+)px/.exec(l.font)?.[1]) * 1.25)
  const all = heights.reduce((a, h) => a + h, 0) + 26 * unit
  pen.fillStyle = 'rgb(18 12 23 / 0.72)'
  pen.fillRect(0, height - all, width, all)
  let y = height - all + 10 * unit
  lines.forEach((line, i) => {
    const h = heights[i] as number
    pen.font = line.font
    pen.fillStyle = line.colour
    pen.fillText(fitting(pen, line.text, width - 68 * unit), 34 * unit, y + h * 0.8)
    y += h
  })
}

/** The drawn dancer, as on the floor. */
function drawFigure(pen: Pen, pose: Pose, x: number, y: number, high: number): void {
  const f = figure(pose)
  const at = ([right, up]: Spot): [number, number] => [x + right * high, y - up * high]
  const limb = (colour: string, ...spots: Spot[]) => {
    pen.strokeStyle = colour
    pen.lineWidth = high * 0.045
    pen.lineCap = 'round'
    pen.lineJoin = 'round'
    pen.beginPath()
    for (const [i, s] of spots.entries()) i ? pen.lineTo(...at(s)) : pen.moveTo(...at(s))
    pen.stroke()
  }
  for (const side of ['left', 'right'] as const) {
    const on = pose.weight === side || pose.weight === 'both'
    limb(floor.ink, f.hips, f.knees[side], f.feet[side])
    const used = pose.arms === side || pose.arms === 'both' || pose.arms === 'none'
    limb(used ? floor.azalea : floor.ink, f.shoulders[side], f.elbows[side], f.hands[side])
    const [fx, fy] = at(f.feet[side])
    pen.beginPath()
    pen.ellipse(fx, fy + high * 0.02, high * 0.06, high * 0.03, 0, 0, 2 * Math.PI)
    pen.fillStyle = on ? floor.azalea : floor.ground
    pen.fill()
    pen.lineWidth = high * 0.014
    pen.strokeStyle = floor.ink
    pen.stroke()
  }
  limb(floor.ink, f.hips, f.neck)
  limb(floor.ink, f.shoulders.left, f.neck, f.shoulders.right)
  pen.beginPath()
  pen.arc(...at(f.head), high * 0.085, 0, 2 * Math.PI)
  pen.fillStyle = floor.ground
  pen.fill()
  pen.lineWidth = high * 0.04
  pen.strokeStyle = floor.ink
  pen.stroke()
  if (f.nose) {
    pen.beginPath()
    pen.arc(...at(f.nose), high * 0.026, 0, 2 * Math.PI)
    pen.fillStyle = floor.azalea
    pen.fill()
  }
}
