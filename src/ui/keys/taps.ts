/** Keys that tap: what a hand finds, and what pedals and page-turners send. */
export const TAPS: ReadonlySet<string> = new Set([
  ...[' ', 'Enter', 'b', 'B', 'PageDown', 'PageUp', 'ArrowRight', 'ArrowLeft'],
])
