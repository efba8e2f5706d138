/* What programs in processes of their own say: lines of JSON (told-process.ts reads them). */

/** Says a line. @returns once it is said */
export const say = (what: object) =>
  new Promise<void>((said) => process.stdout.write(`${JSON.stringify(what)}\n`, () => said()))

/** Told in steps of this share. */
const STEP = 0.02

/** Says how far it is, 0..1, not too often. */
export function tellingShare(): (share: number) => void {
  let told = 0
  return (share) => {
    if (share < told + STEP) return
    told = share
    void say({ share })
  }
}
