/** The library that writes PDF, loaded when the first document is made. */
export async function pdfkit(): Promise<PDFKit.PDFDocument> {
  // its types say that it is the module itself
  const module: unknown = await import('pdfkit');
  return (module as { default: PDFKit.PDFDocument }).default;
}
