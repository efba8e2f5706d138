import type { Page } from '@playwright/test'

/**
 * Taps along with what is heard, on the exact moments of the song. The song's own clock says where they are, never the
 * wall's: a busy machine plays some per cent slower than it should, and a dancer taps to what sounds. The page tells its
 * place in steps, so each tap carries the time at which its moment went by, as a key's event does; one that the page came
 * to too late is left out, as a dancer would.
 * @param period seconds between two taps; the first falls on a multiple of it
 */
export async function tapAlong(page: Page, period: number, taps: number): Promise<void> {
  await page.evaluate(
    ([step, n]) =>
      new Promise<void>((done) => {
        let [next, left] = [Number.NaN, n]
        const told = (seconds: number) => {
          const now = performance.now()
          if (Number.isNaN(next)) next = Math.ceil((seconds + 0.6) / step) * step
          for (; next <= seconds && left > 0; next += step) {
            if (seconds - next > 0.3) continue
            const press = new KeyboardEvent('keydown', { key: ' ' })
            Object.defineProperty(press, 'timeStamp', { value: now - (seconds - next) * 1000 })
            window.dispatchEvent(press)
            left -= 1
          }
          if (left > 0) return
          look.disconnect()
          done()
        }
        const look = new MutationObserver(() => {
          const shown = document.querySelector<HTMLElement>('[data-testid=tap-clock]')?.dataset.seconds
          if (shown !== undefined) told(Number(shown))
        })
        look.observe(document.body, { attributes: true, attributeFilter: ['data-seconds'], subtree: true })
      }),
    [period, taps] as const,
  )
}
