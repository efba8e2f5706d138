'use client'

import { create } from 'zustand'

interface SpokenState {
  words: string
  say: (words: string) => void
}

/** Nothing to hear, and another text than without it: what is said twice is heard twice. */
const AGAIN = '\u200b'

/** What a screen reader is told that others see: what was done, taken back, turned, or come to. */
export const useSpoken = create<SpokenState>()((set) => ({
  words: '',
  say: (words) => set((s) => ({ words: s.words === words ? `${words}${AGAIN}` : words })),
}))

/** Tells a screen reader something, once. */
export const say = (words: string): void => useSpoken.getState().say(words)
