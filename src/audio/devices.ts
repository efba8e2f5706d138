/** Something sound can come out of, as the browser tells it; without permission it tells no ids. */
export interface Output {
  deviceId: string
  groupId: string
}

/**
 * Whether sound may come out elsewhere than before. A browser that tells nothing of the devices tells only that something
 * changed: that is taken for a change, since a song that goes on from a loudspeaker is worse than a pause.
 */
export function outputsDiffer(before: readonly Output[], now: readonly Output[]): boolean {
  const told = (list: readonly Output[]) => list.some((d) => d.deviceId !== '')
  if (!told(before) || !told(now)) return true
  const names = (list: readonly Output[]) =>
    list
      .map((d) => `${d.deviceId} ${d.groupId}`)
      .sort()
      .join('\n')
  return names(before) !== names(now)
}

const outputs = async (): Promise<Output[]> =>
  (await navigator.mediaDevices.enumerateDevices()).filter((d) => d.kind === 'audiooutput')

/** Calls back when headphones or a loudspeaker come or go. @returns stops looking */
export function onOutputChange(told: () => void): () => void {
  const devices = navigator.mediaDevices
  if (!devices?.enumerateDevices) return () => {}
  let before = outputs().catch(() => [])
  const changed = async () => {
    const last = await before
    before = outputs().catch(() => [])
    if (outputsDiffer(last, await before)) told()
  }
  devices.addEventListener('devicechange', changed)
  return () => devices.removeEventListener('devicechange', changed)
}
