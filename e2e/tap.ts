import type { Page } from '@playwright/test'

/**
 * Taps along with what plays, on the exact moments: the page tells its place in steps, so each step is taken as the place
 * at the moment it is told, and the taps lie on the fine clock after the step that was told least late.
 * @param period seconds between two taps; the first falls on a multiple of it
 */
export async function tapAlong(page: Page, period: number, taps: number): Promise<void> {
  await page.evaluate(
    async ([step, n]) => {
      const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))
      const shown = () => document.querySelector<HTMLElement>('[data-testid=tap-clock]')
      while (shown()?.dataset.seconds === undefined) await wait(5)
      let ahead = Number.NEGATIVE_INFINITY
      const told = () => {
        const seconds = Number(shown()?.dataset.seconds)
        ahead = Math.max(ahead, seconds - performance.now() / 1000)
      }
      const look = new MutationObserver(told)
      look.observe(shown() as Node, { attributes: true })
      await wait(800)
      const now = () => performance.now() / 1000 + ahead
      let next = Math.ceil((now() + 0.3) / step) * step
      for (let k = 0; k < n; k++) {
        while (now() < next) if (next - now() > 0.02) await wait(5)
        window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ' }))
        next += step
      }
      look.disconnect()
    },
    [period, taps] as const,
  )
}
