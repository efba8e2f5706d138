import { saveFile } from '../parts/save-file'

/** What of its look a drawing takes from the page. */
const LOOKS = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'font-size', 'font-weight', 'opacity']
/** A picture is drawn so much larger than it is seen. */
const FINER = 3

/** A plan as it is seen, with its colours in it: a file of its own. */
function alone(svg: SVGSVGElement): { text: string; width: number; height: number } {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const from = [svg, ...svg.querySelectorAll<SVGElement>('*')]
  const to = [copy, ...copy.querySelectorAll<SVGElement>('*')]
  for (const [i, element] of from.entries()) {
    const look = getComputedStyle(element)
    for (const name of LOOKS) to[i]?.setAttribute(name, look.getPropertyValue(name))
    to[i]?.removeAttribute('class')
  }
  const { width, height } = svg.getBoundingClientRect()
  copy.setAttribute('width', String(Math.round(width)))
  copy.setAttribute('height', String(Math.round(height)))
  copy.setAttribute('font-family', 'sans-serif')
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect')
  const { x, y, width: wide, height: high } = svg.viewBox.baseVal
  for (const [name, value] of Object.entries({ x, y, width: wide, height: high }))
    ground.setAttribute(name, String(value))
  ground.setAttribute('fill', getComputedStyle(svg).backgroundColor)
  copy.prepend(ground)
  return { text: new XMLSerializer().serializeToString(copy), width, height }
}

/** Saves a plan as SVG. */
export function saveAsSvg(svg: SVGSVGElement, name: string): void {
  saveFile(`${name}.svg`, alone(svg).text, 'image/svg+xml')
}

/** Saves a plan as PNG, three times as fine as it is seen. @throws where this browser cannot draw it */
export async function saveAsPng(svg: SVGSVGElement, name: string): Promise<void> {
  const { text, width, height } = alone(svg)
  const picture = new Image()
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
  await picture.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(width * FINER)
  canvas.height = Math.round(height * FINER)
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
  if (!blob) throw new Error('This browser cannot make a picture of the plan.')
  saveFile(`${name}.png`, blob, 'image/png')
}
