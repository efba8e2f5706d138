/* Names the files of unit tests whose process died before they ended: the runner itself says only that one did. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** Where they are written down, as [{ project, file }]; not there when each file ended. */
export const UNENDED = path.resolve('.cache/unended.json')

export default class Unended {
  constructor({ file = UNENDED } = {}) {
    this.file = file
  }

  onTestRunStart() {
    rmSync(this.file, { force: true })
  }

  onTestRunEnd(modules, errors, reason) {
    // Stopped by hand, or wrong beside: that is told as it is.
    const died = errors.every((e) => /Worker \w+ emitted error/.test(e.message))
    const unended = modules.filter((m) => ['pending', 'queued'].includes(m.state()))
    for (const m of unended) console.log(`Did not end: ${m.project.name} ${m.relativeModuleId}`)
    const wrong = reason === 'interrupted' || !died || modules.some((m) => m.state() === 'failed')
    if (wrong || !errors.length || !unended.length) return
    mkdirSync(path.dirname(this.file), { recursive: true })
    writeFileSync(
      this.file,
      JSON.stringify(unended.map((m) => ({ project: m.project.name, file: m.relativeModuleId }))),
    )
  }
}
