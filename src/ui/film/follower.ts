import { follow, type Wanted } from '@/core/film'
import type { Seconds } from '@/core/time'

/** A seek takes about so long until more is known. */
const USUAL_SEEK: Seconds = 0.06
/** The picture that waits is near enough to where the sound has gone. */
const READY: Seconds = 0.12
/** Speeds that differ by less are not set anew: a browser starts its clock again each time. */
const SAME_RATE = 0.004

/**
 * Two videos of one film, one of which is seen: it follows the sound, while the other waits where the sound will go next, so that
 * nobody sees a seek at a join.
 */
export class Follower {
  private front: HTMLVideoElement
  private back: HTMLVideoElement
  private seekTakes = USUAL_SEEK
  private seekBegan = 0

  /** @param sounding the one that is seen is heard, too */
  constructor(
    a: HTMLVideoElement,
    b: HTMLVideoElement,
    private readonly sounding = false,
  ) {
    this.front = a
    this.back = b
    this.show()
  }

  private show(): void {
    this.front.style.visibility = 'visible'
    this.back.style.visibility = 'hidden'
    this.front.muted = !this.sounding
    this.back.muted = true
  }

  /** The picture that is seen, in seconds of the film. */
  get at(): Seconds {
    return this.front.currentTime
  }

  /**
   * @param wanted what should be seen now; null where the film shows nothing of it
   * @param next where in the film the sound goes after its next join; null where nobody knows
   */
  tick(wanted: Wanted | null, next: Seconds | null = null): void {
    if (!wanted || !this.front.duration) {
      if (!this.front.paused) this.front.pause()
      return
    }
    if (this.isReadyAt(wanted)) [this.front, this.back] = [this.back, this.front]
    this.show()
    this.lead(this.front, wanted)
    this.wait(next)
  }

  /** True where the video that waits is where the sound has just gone, and the one that is seen is not. */
  private isReadyAt({ at }: Wanted): boolean {
    const { front, back } = this
    return (
      back.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA &&
      !back.seeking &&
      Math.abs(back.currentTime - at) < READY &&
      Math.abs(front.currentTime - at) > 2 * READY
    )
  }

  private lead(video: HTMLVideoElement, wanted: Wanted): void {
    if (this.seekBegan && !video.seeking) {
      const took = (performance.now() - this.seekBegan) / 1000
      this.seekTakes = Math.min(0.5, 0.7 * this.seekTakes + 0.3 * took)
      this.seekBegan = 0
    }
    const shown = {
      at: video.currentTime,
      rate: video.playbackRate,
      playing: !video.paused,
      seeking: video.seeking,
    }
    const { seek, rate, play } = follow(shown, wanted, this.seekTakes)
    if (Math.abs(rate - video.playbackRate) > SAME_RATE) video.playbackRate = rate
    if (seek !== null) {
      this.seekBegan = performance.now()
      video.currentTime = Math.min(seek, Math.max(0, video.duration - 0.01))
    }
    if (play && video.paused) video.play().catch(() => {})
    if (!play && !video.paused) video.pause()
  }

  private wait(next: Seconds | null): void {
    const { back } = this
    if (!back.paused) back.pause()
    if (next === null || back.seeking || !back.duration) return
    if (Math.abs(back.currentTime - next) > READY / 2) back.currentTime = Math.min(next, back.duration - 0.01)
  }
}
