/** One repetition as the camera saw it; it lives in this page only, until it is saved. */
export interface Filmed {
  film: Blob
  url: string
  /** What was danced, how fast, and which repetition of which drill it was. */
  label: string
  speed: number
  key: string
  /** The time of the song in its first picture; null where nobody knows. */
  at: number | null
}

/** Holds the one film there is. A browser keeps a film's memory until its address is given back. */
export class Reel {
  private filmed: Filmed | null = null
  private left = false

  constructor(private readonly show: (filmed: Filmed | null) => void) {}

  /** A film of a recorder that stopped after the floor was left is let go at once. */
  readonly keep = (next: Filmed): void => {
    if (this.left) URL.revokeObjectURL(next.url)
    else this.put(next)
  }

  readonly forget = (): void => this.put(null)

  open(): void {
    this.left = false
  }

  close(): void {
    this.put(null)
    this.left = true
  }

  private put(next: Filmed | null): void {
    if (this.filmed) URL.revokeObjectURL(this.filmed.url)
    this.filmed = next
    this.show(next)
  }
}
