'use client'

import { nanoid } from 'nanoid'
import { useSearchParams } from 'next/navigation'
import { useEffect, useMemo, useRef, useState } from 'react'
import {
  danceOf,
  elsewhereIn,
  LAYERS,
  type Layer,
  lineOf,
  type PlacedPhrase,
  phraseAt,
  printLine,
  putLine,
  type Routine,
} from '@/core/routine'
import { useCursor } from '../../state/cursor'
import { didFirst } from '../../state/first-steps'
import type { Page } from '../../state/page'
import { useRoutine } from '../../state/routine-store'
import { linePhrase, type OpenLine, type ReadLine, readLine } from './line-editor'

/** Layers by the words a pasted line may begin with. */
const PREFIX = new RegExp(`^(${LAYERS.join('|')})\\s*:\\s*`, 'i')

/**
 * Several lines at once: each is a layer of a phrase; "arms: ..." names the layer, a line without a name belongs to the
 * next phrase, an empty line goes on to the next phrase.
 */
export function readLines(text: string, layer: Layer): { row: number; layer: Layer; text: string }[] {
  const out: { row: number; layer: Layer; text: string }[] = []
  let row = 0
  const begun = new Set<Layer>()
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim()
    const named = PREFIX.exec(line)
    const own = (named?.[1]?.toLowerCase() as Layer | undefined) ?? layer
    if (!line || begun.has(own)) {
      if (begun.size) row++
      begun.clear()
    }
    if (!line) continue
    begun.add(own)
    out.push({ row, layer: own, text: line.slice(named?.[0].length ?? 0) })
  }
  return out
}

/** Writing a phrase as lines: one open line, shown in the lanes while it is typed, kept in one step. */
export function useLine(page: Page, layers: readonly Layer[]) {
  const edit = useRoutine((s) => s.edit)
  const routine = useRoutine((s) => s.routine)
  const to = useCursor((s) => s.to)
  const [line, setLine] = useState<OpenLine | null>(null)
  const [problem, setProblem] = useState('')
  const began = useRef<Layer>('feet')
  /** What was left without keeping it, by place. */
  const drafts = useRef(new Map<string, string>())
  const row = line ? page.placed.find((p) => p.start === line.phrase) : undefined

  const readAt = (text: string, p: PlacedPhrase, layer: Layer, from: Routine): ReadLine =>
    readLine(text, linePhrase(p), elsewhereIn(from, page.placed, p, layer))
  // biome-ignore lint/correctness/useExhaustiveDependencies: `readAt` reads what stands here
  const read = useMemo(
    () => (line && row ? readAt(line.text, row, line.layer, routine) : null),
    [line, row, routine],
  )
  /** The routine as the open line would make it; the routine itself while the line cannot be read. */
  const preview: Routine = useMemo(
    () =>
      line && row && read && 'cues' in read ? putLine(routine, row, line.layer, read.cues, nanoid) : routine,
    [line, row, read, routine],
  )

  const open = (p: PlacedPhrase, layer: Layer, from: Routine = routine) => {
    const text = drafts.current.get(`${p.start} ${layer}`) ?? printLine(lineOf(from, p, layer), linePhrase(p))
    setLine({ phrase: p.start, layer, text })
    to(p.start, layer)
  }
  const toSheet = () => {
    setLine(null)
    // After the field is gone, so that it does not take the focus back.
    requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-testid=sheet]')?.focus())
  }
  const keep = (go: 'stay' | 'layer+' | 'layer-' | 'phrase+' | 'phrase-') => {
    // A line that cannot be read changes nothing and stays open.
    if (!line || !row || !read || 'problem' in read) return
    if (!edit(`write a line of ${line.layer}`, (r) => putLine(r, row, line.layer, read.cues, nanoid))) return
    drafts.current.delete(`${line.phrase} ${line.layer}`)
    if (read.cues.length) didFirst('write')
    if (go === 'stay') {
      // The next phrase is begun where this one was: in the layer its first line was opened in.
      to(line.phrase, began.current)
      return toSheet()
    }
    if (go.startsWith('layer')) {
      const next = layers[layers.indexOf(line.layer) + (go === 'layer+' ? 1 : -1)]
      return next ? open(row, next) : toSheet()
    }
    const next = page.placed[row.index + (go === 'phrase+' ? 1 : -1)]
    return next ? open(next, line.layer) : toSheet()
  }
  const leave = () => {
    if (line && row) {
      const was = printLine(lineOf(routine, row, line.layer), linePhrase(row))
      if (line.text !== was) drafts.current.set(`${line.phrase} ${line.layer}`, line.text)
    }
    toSheet()
  }
  /** Takes several pasted lines over at once, or none of them. */
  const pasteLines = (text: string): boolean => {
    if (!line || !row || !/\S\s*\n\s*\S/.test(text)) return false
    const list = readLines(text, line.layer)
    let next = routine
    for (const l of list) {
      const p = page.placed[row.index + l.row]
      if (!p) continue
      const read = readAt(l.text, p, l.layer, next)
      if ('problem' in read) {
        setProblem(`“${l.text.slice(0, 60)}” was not taken: ${read.problem.message}. Nothing was changed.`)
        return true
      }
      next = putLine(next, p, l.layer, read.cues, nanoid)
    }
    setProblem('')
    edit(`paste ${list.length} lines`, () => next)
    toSheet()
    return true
  }
  // Led here to write the first eight: its line is open.
  const query = useSearchParams()
  const asked = useRef(query.get('line') !== null)
  useEffect(() => {
    const first = page.placed.find((p) => !p.phrase.pickUp && p.end > danceOf(routine).from)
    if (!asked.current || !first) return
    asked.current = false
    began.current = 'feet'
    open(first, 'feet')
    window.history.replaceState(null, '', window.location.pathname)
  })
  return {
    line,
    read,
    preview,
    problem,
    open: (tick: number, layer: Layer) => {
      const p = phraseAt(page.placed, tick)
      setProblem('')
      began.current = layer
      if (p) open(p, layer)
    },
    type: (text: string) => setLine((l) => l && { ...l, text }),
    keep,
    leave,
    pasteLines,
  }
}
