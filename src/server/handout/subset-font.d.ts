/** The package has no types of its own; this is what is used of it. */
declare module 'subset-font' {
  interface Wanted {
    targetFormat: 'sfnt' | 'woff' | 'woff2'
    /** Axes of a variable font, fixed at a value. */
    variationAxes?: Record<string, number>
  }
  /** The same font with the glyphs a text needs and no others, ligatures and joined forms included. */
  export default function subsetFont(font: Buffer, text: string, wanted: Wanted): Promise<Buffer>
}
