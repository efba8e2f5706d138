/** The package has no types of its own; this is what is used of it. */
declare module 'pdfkit' {
  interface StructureElement {
    add(child: StructureElement | StructureContent): StructureElement
    end(): void
  }
  interface StructureContent {
    readonly structureContent: unique symbol
  }
  class PDFDocument {
    /** Called once by each document as it begins. */
    initMarkings(options: { tagged?: boolean }): void
    struct(type: string, options?: { actual?: string }): StructureElement
    addStructure(root: StructureElement): this
    markStructureContent(tag: string): StructureContent
    markContent(tag: 'Artifact'): this
  }
  export default PDFDocument
}
