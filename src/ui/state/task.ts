'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'
import { said } from '@/core/formats/said'

/** Something that is made while the person waits: how far it is, and what came of it. `share` is null where nobody knows. */
export type TaskState =
  | { kind: 'idle' }
  | { kind: 'making'; what: string; share: number | null }
  | { kind: 'stopped' }
  | { kind: 'done'; told: string }
  | { kind: 'failed'; why: string }

/** Tells how far a piece of work is, and what is done now where that changes. */
export type Tell = (share: number | null, what?: string) => void

/** One piece of work at a time: a new one takes the place of the one before, and what comes of that is nobody's. */
export class Task {
  readonly state = createStore<TaskState>(() => ({ kind: 'idle' }))
  private now: AbortController | null = null

  /**
   * @param what is done first
   * @param work resolves to what is told when it is done
   * @param blame puts what went wrong into a sentence
   */
  async begin(
    what: string,
    work: (tell: Tell, signal: AbortSignal) => Promise<string>,
    blame: (why: string) => string = (why) => why,
  ): Promise<void> {
    this.now?.abort()
    const mine = new AbortController()
    this.now = mine
    const set = (state: TaskState) => this.now === mine && this.state.setState(state, true)
    let doing = what
    set({ kind: 'making', what, share: null })
    try {
      const told = await work((share, next = doing) => {
        doing = next
        set({ kind: 'making', what: next, share })
      }, mine.signal)
      set({ kind: 'done', told })
    } catch (error) {
      set(mine.signal.aborted ? { kind: 'stopped' } : { kind: 'failed', why: blame(said(error)) })
    }
  }

  /** Stops what is under way, at once: what comes of work that cannot be broken off is nobody's. */
  cancel(): void {
    this.now?.abort()
    this.now = null
    if (this.state.getState().kind === 'making') this.state.setState({ kind: 'stopped' }, true)
  }
}

/** A task of a part of the page. Leaving the part does not stop it: what is made is saved all the same. */
export function useTask(): { task: Task; state: TaskState } {
  const [task] = useState(() => new Task())
  return { task, state: useStore(task.state) }
}
