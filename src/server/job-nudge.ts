// One for the whole process: routes and what runs at its start are bundled apart.
const shared = globalThis as { azaleaJobs?: { nudge(): void } }

/** Work was asked for: this process looks at once; others a little later. */
export const nudgeJobs = (): void => shared.azaleaJobs?.nudge()
