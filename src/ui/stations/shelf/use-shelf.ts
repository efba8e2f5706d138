import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { said } from '@/core/formats/said'
import { fetchShelf, type ShelfPart } from '../../state/api-shelf'

export const ORDERS = [
  { id: 'used', name: 'last used first' },
  { id: 'due', name: 'due first' },
  { id: 'name', name: 'by name' },
] as const
type Order = (typeof ORDERS)[number]['id']
/** What is typed is asked for after so much quiet. */
const TYPED_MS = 150

/** What is on the shelf, as far as it was asked for. @param first what the page came with; null where it could not be read */
export function useShelf(first: ShelfPart | null) {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<Order>('used')
  const [part, setPart] = useState(first)
  const [problem, setProblem] = useState('')
  const asked = useRef(0)
  const ask = async (from: number, more: boolean) => {
    const mine = ++asked.current
    try {
      const found = await fetchShelf(search, order, from)
      if (mine !== asked.current) return
      setPart((p) => ({ ...found, items: more ? [...(p?.items ?? []), ...found.items] : found.items }))
      setProblem('')
    } catch (error) {
      if (mine === asked.current) setProblem(said(error))
    }
  }
  const again = useEffectEvent(ask)
  // A page shown again from the browser's history may be older than the routines on it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another search or order is the reason to ask
  useEffect(() => {
    const timer = setTimeout(() => again(0, false), search ? TYPED_MS : 0)
    return () => clearTimeout(timer)
  }, [search, order])
  return {
    ...{ search, setSearch, order, setOrder, part, problem },
    refresh: () => ask(0, false),
    more: () => ask(part?.items.length ?? 0, true),
  }
}
