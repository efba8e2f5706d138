import type { Page } from '@playwright/test'

/** Taps the space bar as the song, by the clock on the screen, passes each whole period. */
export async function tapAlong(page: Page, period: number, taps: number): Promise<void> {
  await page.evaluate(
    async ([step, n]) => {
      const clock = () => {
        const shown = document.querySelector<HTMLElement>('[data-testid=tap-clock]')?.dataset.seconds
        return shown === undefined ? Number.NaN : Number(shown)
      }
      const frame = () => new Promise((done) => requestAnimationFrame(done))
      while (Number.isNaN(clock())) await frame()
      let next = Math.ceil((clock() + 0.3) / step) * step
      for (let k = 0; k < n; k++) {
        while (clock() < next) await frame()
        window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ' }))
        next += step
      }
    },
    [period, taps] as const,
  )
}
