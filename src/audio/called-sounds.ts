import type { SpokenWord } from '@/core/drill'
import { levelSaid } from '@/core/loudness'
import { loadRecording, loadWord, ownVoice, type Sounds } from './sounds'

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

  /**
   * Gets words that are to be called and not spoken yet, one after another; a word that cannot be had stays unspoken.
   * @param told how many of them are there
   */
  async learn(words: readonly string[], told: (ready: number, all: number) => void): Promise<void> {
    const missing = [...new Set(words)].filter((w) => w && !this.sounds.voice.has(w))
    for (const [i, word] of missing.entries()) {
      told(i, missing.length)
      try {
        this.sounds.voice.set(word, await loadWord(this.context, word))
      } catch {
        // The count is clicked without it.
      }
    }
    told(missing.length, missing.length)
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
