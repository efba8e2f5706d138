import { nanoid } from 'nanoid'
import type { Saving } from './entry'
import type { Answered } from './outbox-state'

/** The saves one window makes of a document, each on the revision of the one before. */
export class SaveLine {
  private saving: Saving
  /** Windows that are gone, whose saves the document here goes on from. */
  private before: readonly string[] = []

  constructor(revision: number) {
    this.saving = { revision, writer: nanoid(12), save: 0 }
  }

  /** The revision the document here stands on, as far as it was answered. */
  get revision(): number {
    return this.saving.revision
  }

  /** This window, and those whose saves the document here goes on from. */
  get writers(): string[] {
    return [this.saving.writer, ...this.before]
  }

  /** How many saves were begun. */
  get saves(): number {
    return this.saving.save
  }

  /** Begins a save. */
  next(): Saving {
    this.saving = { ...this.saving, save: this.saving.save + 1 }
    return this.saving
  }

  /** Goes on from a state of the document. @param after the windows whose saves that is, where they are not all answered */
  goOnFrom({ revision, after }: { revision: number; after: readonly string[] }): void {
    const { after: _, ...saving } = this.saving
    const last = after.at(-1)
    this.before = after
    this.saving = { ...saving, revision, ...(last === undefined ? {} : { after: last }) }
  }

  /** True for the window whose line this is, and for those whose saves it goes on from. */
  standsOn(writer: string): boolean {
    return writer === this.saving.writer || this.before.includes(writer)
  }

  /** A save was answered. @returns whether it is one of those the document here stands on */
  hear({ writer, revision }: Answered): boolean {
    if (!this.standsOn(writer)) return false
    const { after: _, ...saving } = this.saving
    this.saving = writer === saving.writer ? { ...saving, revision } : { ...this.saving, revision }
    return true
  }
}
