const SOONER = ['keydown', 'pointerdown', 'pagehide', 'visibilitychange'] as const

/** A page that is not painted waits no longer than this. Milliseconds. */
const LONGEST = 100

/**
 * Does something once what the page shows now was painted. It is done sooner, and before anything else, where a key or a
 * pointer is pressed or the page is left or hidden: whatever comes next finds it done.
 */
export function afterPaint(work: () => void): void {
  let done = false
  const finish = () => {
    if (done) return
    done = true
    for (const name of SOONER) window.removeEventListener(name, finish, true)
    clearTimeout(late)
    work()
  }
  for (const name of SOONER) window.addEventListener(name, finish, true)
  const late = setTimeout(finish, LONGEST)
  // A task of its own comes after the frame is painted.
  requestAnimationFrame(() => setTimeout(finish))
}
