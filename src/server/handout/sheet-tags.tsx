import { Canvas } from '@react-pdf/renderer'
import PDFDocument from 'pdfkit'

/*
 * What stands on a sheet is told to those who have it read aloud: a heading, a row of counts, or only an ornament (ISO 32000-1,
 * 14.8, tagged PDF). What sets the sheet knows of no tags, but what it writes with does: a tag is put between two things that
 * are drawn, and holds for all that follows until the next.
 */

/** Where a document is written, and the tags it has so far. */
interface Writing {
  document: PDFDocument
  root: ReturnType<PDFDocument['struct']> | null
}

let writing: Writing | null = null

const { initMarkings } = PDFDocument.prototype
/** Every document that is begun is a tagged one. A process sets one sheet at a time. */
PDFDocument.prototype.initMarkings = function (options) {
  writing = { document: this, root: null }
  initMarkings.call(this, { ...options, tagged: true })
}

/** The usual words of a tag are those that are drawn under it. */
interface What {
  as: 'H1' | 'H2' | 'P' | 'Artifact'
  /** What is read aloud instead of what is drawn. */
  say?: string
}

function begin({ as, say }: What): null {
  if (!writing) return null
  const { document } = writing
  if (as === 'Artifact') {
    document.markContent('Artifact')
    return null
  }
  if (!writing.root) {
    writing.root = document.struct('Document')
    document.addStructure(writing.root)
  }
  const tag = document.struct(as, say ? { actual: say } : {})
  writing.root.add(tag)
  tag.add(document.markStructureContent(as))
  return null
}

/** From here on, what is drawn is this. */
export const Tag = (what: What) => (
  <Canvas style={{ position: 'absolute', width: 1, height: 1 }} paint={() => begin(what)} />
)
