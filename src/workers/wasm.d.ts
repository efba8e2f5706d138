/** Its bytes, where scripts/made.mjs bundles. */
declare module '*.wasm' {
  const bytes: Uint8Array<ArrayBuffer>
  export default bytes
}
