// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { Area } from './area'
import { Button } from './button'
import { Choice } from './choice'
import { Text } from './field'
import { Suggest } from './suggest'

afterEach(cleanup)

const press = (key: string) => act(() => fireEvent.keyDown(document.activeElement ?? document.body, { key }))
const list = () => screen.queryByRole('listbox')
const options = () => within(screen.getByRole('listbox')).getAllByRole('option')

const FEELS = [
  { id: 'straight', name: 'straight' },
  { id: 'swung', name: 'swung' },
  { id: 'triplet', name: 'triplet' },
]

function Feel({ chosen }: { chosen: (id: string) => void }) {
  const [value, setValue] = useState('swung')
  return (
    <Choice
      label="Feel"
      value={value}
      options={FEELS}
      onChange={(next) => {
        setValue(next)
        chosen(next)
      }}
    />
  )
}

describe('one of several', () => {
  it('is named by its label and what is chosen; its list is not there until it is opened', () => {
    render(<Feel chosen={vi.fn()} />)
    expect(screen.getByRole('button', { name: 'swung Feel' })).toBeTruthy()
    expect(list()).toBeNull()
  })
  it('is chosen from its list, which is gone then', () => {
    const chosen = vi.fn()
    render(<Feel chosen={chosen} />)
    const button = screen.getByRole('button')
    act(() => button.focus())
    press('ArrowDown')
    expect(options().map((o) => [o.textContent, o.getAttribute('aria-selected')])).toEqual([
      ['straight', 'false'],
      ['swung', 'true'],
      ['triplet', 'false'],
    ])
    act(() => fireEvent.click(options()[2] as HTMLElement))
    expect(chosen.mock.calls).toEqual([['triplet']])
    expect(list()).toBeNull()
    expect(screen.getByRole('button', { name: 'triplet Feel' })).toBe(button)
  })
  it('is left as it is by Escape', () => {
    const chosen = vi.fn()
    render(<Feel chosen={chosen} />)
    act(() => screen.getByRole('button').focus())
    press('ArrowDown')
    press('ArrowDown')
    press('Escape')
    expect(list()).toBeNull()
    expect(chosen).not.toHaveBeenCalled()
  })
  it('is changed by arrows and by its first letters while the list is closed', () => {
    const chosen = vi.fn()
    render(<Feel chosen={chosen} />)
    act(() => screen.getByRole('button').focus())
    press('ArrowRight')
    press('s')
    expect(chosen.mock.calls).toEqual([['triplet'], ['straight']])
  })
})

function Move({ kept }: { kept: (text: string) => void }) {
  const [text, setText] = useState('')
  const offers = ['step', 'step touch', 'stomp'].filter((o) => text && o.startsWith(text) && o !== text)
  return <Suggest label="Move" value={text} offers={offers} onChange={setText} onEnter={() => kept(text)} />
}

describe('a line with offers', () => {
  const write = (text: string) =>
    act(() => {
      const field = screen.getByRole('combobox', { name: 'Move' })
      field.focus()
      fireEvent.change(field, { target: { value: text } })
    })
  it('offers what begins so, and keeps what is written', () => {
    const kept = vi.fn()
    render(<Move kept={kept} />)
    expect(list()).toBeNull()
    write('st')
    expect(options().map((o) => o.textContent)).toEqual(['step', 'step touch', 'stomp'])
    press('Enter')
    expect(kept.mock.calls).toEqual([['st']])
  })
  it('takes an offer that is walked to first; then Enter means it', () => {
    const kept = vi.fn()
    render(<Move kept={kept} />)
    write('st')
    press('ArrowDown')
    press('ArrowDown')
    press('Enter')
    expect(kept).not.toHaveBeenCalled()
    expect(screen.getByRole('combobox')).toHaveProperty('value', 'step touch')
    press('Enter')
    expect(kept.mock.calls).toEqual([['step touch']])
  })
})

it('what is longer than there is room for is said, and not kept when the field is left or Enter pressed', () => {
  const kept = vi.fn()
  const { rerender } = render(
    <Text label="Tip" value="too long" most={5} onChange={vi.fn()} onBlur={kept} onEnter={kept} />,
  )
  const line = screen.getByRole('textbox', { name: 'Tip' })
  fireEvent.blur(line)
  fireEvent.keyDown(line, { key: 'Enter' })
  expect(line.getAttribute('aria-invalid')).toBe('true')
  rerender(<Area label="Notes" rows={3} value="too long" most={5} onChange={vi.fn()} onBlur={kept} />)
  fireEvent.blur(screen.getByRole('textbox', { name: 'Notes' }))
  expect(screen.getByRole('alert').textContent).toContain('3 letters more than the 5')
  expect(kept).not.toHaveBeenCalled()
})

it('Escape in a line of text closes what is around it, unless something was written in it or it has a use for it', () => {
  const [escaped, closed] = [vi.fn(), vi.fn()]
  const line = (value: string, more: { onEscape?: () => void } = {}) => (
    // biome-ignore lint/a11y/noStaticElementInteractions: stands for a dialog
    <div onKeyDown={closed}>
      <Text label="Name" value={value} onChange={vi.fn()} {...more} />
    </div>
  )
  const { rerender } = render(line('Thursday'))
  const field = screen.getByRole('textbox', { name: 'Name' })
  const leave = () => fireEvent.keyDown(field, { key: 'Escape' })
  act(() => field.focus())
  leave()
  expect(closed).toHaveBeenCalledTimes(1)
  rerender(line('Thursday, late'))
  leave()
  expect(closed).toHaveBeenCalledTimes(1)
  rerender(line('Thursday', { onEscape: escaped }))
  leave()
  expect([escaped.mock.calls.length, closed.mock.calls.length]).toEqual([1, 1])
})

it('a button that is reached by keys says what it does and its key; one without a tip says nothing', () => {
  const pressed = vi.fn()
  render(
    <>
      <Button tip="Brings it back" hotkey="undo" onPress={pressed}>
        Undo
      </Button>
      <Button onPress={pressed}>Other</Button>
    </>,
  )
  const [undo, other] = screen.getAllByRole('button')
  expect(screen.queryByRole('tooltip')).toBeNull()
  act(() => fireEvent.keyDown(document.body, { key: 'Tab' }))
  act(() => undo?.focus())
  const tip = screen.getByRole('tooltip')
  expect(tip.textContent).toContain('Brings it back')
  expect(tip.textContent).not.toBe('Brings it back')
  expect(undo?.getAttribute('aria-describedby')).toBe(tip.id)
  act(() => other?.focus())
  expect(screen.queryByRole('tooltip')).toBeNull()
  fireEvent.click(other as HTMLElement)
  expect(pressed).toHaveBeenCalledTimes(1)
})
