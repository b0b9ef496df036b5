declare module 'svg-to-pdfkit' {
  /** Draws SVG into a document; sizes are in points. */
  export default function svgToPdf(
    document: PDFKit.PDFDocument,
    svg: string,
    x: number,
    y: number,
    options: { width: number; height: number; fontCallback(): string },
  ): void;
}
