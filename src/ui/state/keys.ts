'use client'

import { useEffect, useEffectEvent } from 'react'
import { tinykeys } from 'tinykeys'

type Keys = Record<string, (event: KeyboardEvent) => void>

/** Seconds since a key or pointer went down: on a busy page the word of it comes late. */
export const sincePress = (event: { timeStamp: number }): number =>
  Math.min(0.5, Math.max(0, (performance.now() - event.timeStamp) / 1000))

const TYPED =
  'input:not([type=range], [type=checkbox], [type=radio]), textarea, select, [role=listbox], [role=dialog], [role=alertdialog], [contenteditable=true]'

/** True where a key is typed into a field, or meant for a window in front. */
const isTyped = ({ target }: KeyboardEvent): boolean =>
  target instanceof HTMLElement && target.closest(TYPED) !== null

/** True where keys belong to what has the focus: fields, lists, sliders, dialogs, and buttons for their own two keys. */
function belongsElsewhere(event: KeyboardEvent): boolean {
  const target = event.target
  if (!(target instanceof HTMLElement)) return false
  if (isTyped(event)) return true
  if (event.key === ' ' || event.key === 'Enter')
    return target.closest('button, a, [role=button], [role=radio], input') !== null
  if (
    event.key.startsWith('Arrow') ||
    event.key === 'Home' ||
    event.key === 'End' ||
    event.key.startsWith('Page')
  )
    return target.closest('input[type=range], [role=radiogroup], [role=toolbar], [role=slider]') !== null
  return false
}

/** What keys do now, the latest last. */
const live: { names: readonly string[]; press: (name: string) => void }[] = []

/** True where one of some keys does something now. */
export const isBound = (names: readonly string[]): boolean =>
  live.some((l) => l.names.some((name) => names.includes(name)))

/** Does what a key does now, wherever the focus is. @returns false where none of them does anything */
export function pressKey(names: readonly string[]): boolean {
  for (const one of [...live].reverse()) {
    const name = one.names.find((n) => names.includes(n))
    if (name === undefined) continue
    one.press(name)
    return true
  }
  return false
}

/** Keys that work anywhere on the page, except where the focus needs them itself. Names as in tinykeys. */
export function useKeys(keys: Keys): void {
  const press = useEffectEvent((name: string, event: KeyboardEvent) => keys[name]?.(event))
  const names = Object.keys(keys).join(' | ')
  useEffect(() => {
    const bound: Keys = {}
    for (const name of names.split(' | '))
      bound[name] = (event) => {
        if (event.defaultPrevented || belongsElsewhere(event)) return
        event.preventDefault()
        press(name, event)
      }
    const own = {
      names: names.split(' | '),
      press: (name: string) => press(name, new KeyboardEvent('keydown', { key: name })),
    }
    live.push(own)
    const off = tinykeys(window, bound)
    return () => {
      live.splice(live.indexOf(own), 1)
      off()
    }
  }, [names])
}

/**
 * Keys that are taken before the transport and the sheet, which use the same; what is typed into a field stays its own.
 * @param take does what a key means; true where it meant something
 */
export function useKeysFirst(take: (event: KeyboardEvent) => boolean): void {
  const press = useEffectEvent((e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || isTyped(e) || !take(e)) return
    e.preventDefault()
    e.stopImmediatePropagation()
  })
  useEffect(() => {
    const listen = (e: KeyboardEvent) => press(e)
    window.addEventListener('keydown', listen, true)
    return () => window.removeEventListener('keydown', listen, true)
  }, [])
}
