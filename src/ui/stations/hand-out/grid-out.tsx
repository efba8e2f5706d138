'use client'

import { FORMATS } from '@/core/formats'
import { Button } from '../../parts/button'
import { Part, Tools } from '../../parts/panel'
import { fileName, saveFile } from '../../parts/save-file'
import { contentOf } from '../../state/printed'
import { desk } from '../../theme/tokens'
import type { OutProps } from './props'

const SAID = {
  beats: 'One count a line: its second and its number.',
  labels: 'One section a line: its beginning, its end, its name.',
  midi: 'The tempo of the song, its bars and sections as markers, and a note on every count: the 1 higher.',
  jams: 'Counts and sections in one file, as music research publishes them.',
} as const

/** The counts of the song for other programs. */
export function GridOut({ page, routine }: OutProps) {
  const content = contentOf(routine, page)
  const has = page.times.length > 1 && content.numbers.length > 0
  if (!has)
    return (
      <p role="status" style={{ color: desk.quiet }}>
        The counts of this song are not known yet: they are laid out on Count.
      </p>
    )
  return (Object.keys(SAID) as (keyof typeof SAID)[]).map((key) => {
    const f = FORMATS[key]
    return (
      <Part key={key}>
        <h2>{f.name}</h2>
        <p>{SAID[key]}</p>
        <Tools>
          <Button
            onPress={() =>
              saveFile(
                `${fileName(routine.title)} ${key}.${f.endings[0]}`,
                f.print({ ...content, words: [] }),
                f.type,
              )
            }
          >
            Save {f.name}
          </Button>
        </Tools>
      </Part>
    )
  })
}
