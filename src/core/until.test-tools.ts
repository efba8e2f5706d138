import { vi } from 'vitest'

/** Waits until something is so, as long as a busy machine takes: Vitest itself waits for one second. */
export const until = (check: () => void): Promise<void> => vi.waitFor(check, { timeout: 60_000 })
