'use client'

import { useRef, useState } from 'react'
import styled from 'styled-components'
import type { Film } from '@/core/routine'
import type { Seconds } from '@/core/time'
import { filmUrl } from '../state/film-file'
import type { Page } from '../state/page'
import { useFollow } from './use-follow'

const Box = styled.div`
  position: relative;
  aspect-ratio: 16 / 9;
  border-radius: 12px;
  overflow: hidden;
  background: #000;
  video { position: absolute; inset: 0; width: 100%; height: 100%; object-fit: contain; }
  &[data-turned] video { transform: scaleX(-1); }
  p {
    position: absolute; inset: auto 0 0 0; margin: 0; padding: 6px 10px; font-size: 13px; color: #fff;
    background: rgb(0 0 0 / 0.6);
  }
  &[data-away] video { opacity: 0.35; }
`

/** Seen, not heard: the song sounds. */
const VIDEO = {
  // A film may be read from another server, and pictures are made of it.
  crossOrigin: 'anonymous',
  muted: true,
  playsInline: true,
  preload: 'auto',
  disablePictureInPicture: true,
  tabIndex: -1,
  'aria-hidden': true,
} as const

interface Props {
  film: Film
  page: Page
  /** A picture that is looked at for itself. */
  free?: Seconds | null
  /** Sides are seen as in a mirror. */
  turned: boolean
  /** What the film is of, to who does not see it. */
  label: string
  told?: (at: Seconds, song: Seconds | null) => void
  className?: string
  /** It is heard, too. */
  sounding?: boolean
}

/** A film that goes along with the cursor and with what plays. */
export function FilmView({
  film,
  page,
  free = null,
  turned,
  label,
  told,
  className,
  sounding = false,
}: Props) {
  const a = useRef<HTMLVideoElement>(null)
  const b = useRef<HTMLVideoElement>(null)
  const [problem, setProblem] = useState('')
  const [away, setAway] = useState(false)
  useFollow(a, b, {
    ...{ film, page, free, sounding },
    told: (at, song) => {
      setAway(Number.isNaN(at))
      told?.(at, song)
    },
  })
  const url = filmUrl(film.file)
  const broken = () => setProblem('This browser cannot show this film, or its file is not there any more.')
  return (
    <Box
      className={className}
      role="img"
      aria-label={label}
      data-turned={turned || undefined}
      data-away={away || undefined}
      data-testid="film"
    >
      <video ref={a} {...VIDEO} src={url} onError={broken} />
      <video ref={b} {...VIDEO} src={url} onError={broken} />
      {problem ? <p role="alert">{problem}</p> : away && <p>The film does not show this count.</p>}
    </Box>
  )
}
