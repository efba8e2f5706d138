import type { AppVoice, SpokenWord } from '@/core/drill'
import { levelSaid } from '@/core/loudness'
import { loadRecording, loadVoice, loadWord, ownVoice, type Sounds, type SpokenCount } from './sounds'

/** Everything the counts are played with, and how more of it is had while the device is open. */
export class CalledSounds {
  constructor(
    private readonly context: BaseAudioContext,
    readonly sounds: Sounds,
  ) {}

  /** Counts with the instructor's own recordings where there are any; an empty list is the voice of the app. */
  async countWith(recorded: Parameters<typeof ownVoice>[1]): Promise<void> {
    this.sounds.own = await ownVoice(this.context, recorded)
  }

  /** Counts with another voice of the app; words are to be got anew. */
  async speakAs(as: AppVoice): Promise<void> {
    if (as === this.sounds.as) return
    this.sounds.voice = await loadVoice(this.context, as)
    this.sounds.as = as
  }

  /**
   * Gets words that are to be called and not spoken yet, one after another; a word that cannot be had stays unspoken.
   * @param told how many of them are there
   */
  async learn(words: readonly string[], told: (ready: number, all: number) => void): Promise<void> {
    const missing = [...new Set(words)].filter((w) => w && !this.sounds.voice.has(w))
    for (const [i, word] of missing.entries()) {
      told(i, missing.length)
      try {
        this.sounds.voice.set(word, await loadWord(this.context, word, this.sounds.as))
      } catch {
        // The count is clicked without it.
      }
    }
    told(missing.length, missing.length)
  }

  /** A word that is said once. @throws Error where it cannot be had */
  word(word: string): Promise<SpokenCount> {
    return loadWord(this.context, word, this.sounds.as)
  }

  /** Gets recordings of calls; where one cannot be had, its counts are clicked without it. */
  async learnRecordings(ids: readonly string[]): Promise<void> {
    const { recordings } = this.sounds
    const missing = [...new Set(ids)].filter((id) => !recordings.has(id))
    await Promise.all(
      missing.map((id) =>
        loadRecording(id).then(
          (recording) => recordings.set(id, recording),
          () => {},
        ),
      ),
    )
  }

  /** Takes a recording that is not kept yet. */
  giveRecording(id: string, recording: SpokenWord): void {
    const samples = recording.samples.slice()
    levelSaid(samples, recording.rate)
    this.sounds.recordings.set(id, { ...recording, samples })
  }
}
