'use client'

import { create } from 'zustand'
import { type Copied, printCopied } from '@/core/routine'

/** What was copied last, and as what text it went to the clipboard; it goes from routine to routine. */
export const useCopied = create<{ copied: Copied | null; text: string }>(() => ({ copied: null, text: '' }))

export const keepCopied = (copied: Copied): void => useCopied.setState({ copied, text: printCopied(copied) })
