import { createRequire } from 'node:module';
import type { Measure, PaperFont } from '@margin-lens/core';
import { pdfkit } from './pdfkit';

const fontFile = (name: string): string => createRequire(import.meta.url).resolve(`@expo-google-fonts/${name}`);

/** Files of the fonts that are embedded; only the glyphs used go into a document. All under the SIL Open Font License. */
export const PAPER_FONTS: Readonly<Record<PaperFont, string>> = {
  sans: fontFile('source-sans-3/400Regular/SourceSans3_400Regular.ttf'),
  strong: fontFile('source-sans-3/600SemiBold/SourceSans3_600SemiBold.ttf'),
  slanted: fontFile('source-sans-3/400Regular_Italic/SourceSans3_400Regular_Italic.ttf'),
  strong_slanted: fontFile('source-sans-3/600SemiBold_Italic/SourceSans3_600SemiBold_Italic.ttf'),
  serif: fontFile('source-serif-4/600SemiBold/SourceSerif4_600SemiBold.ttf'),
};

/** What programs that have the fonts call them. */
export const FONT_FAMILIES = { sans: 'Source Sans 3', serif: 'Source Serif 4' } as const;

/** Widths are measured once at this size, and scale with it. */
const MEASURED_AT = 1000;

let measuring: Promise<Measure> | undefined;

/** Measures texts as they are drawn in documents. */
export function paperMeasure(): Promise<Measure> {
  return (measuring ??= newMeasure());
}

/** How much wider letters may be where our fonts are not there. */
const WIDER = 1.15;

/** Measures texts as office programs may draw them. */
export async function officeMeasure(): Promise<Measure> {
  const measure = await paperMeasure();
  return (text, font, size) => WIDER * measure(text, font, size);
}

async function newMeasure(): Promise<Measure> {
  const PDFDocument = await pdfkit();
  const document = new PDFDocument({ autoFirstPage: false });
  const known = new Map<string, number>();
  return (text, font, size) => {
    const key = `${font}${text}`;
    let width = known.get(key);
    if (width === undefined) {
      width = document.font(PAPER_FONTS[font], MEASURED_AT).widthOfString(text) / MEASURED_AT;
      if (known.size > MOST_KNOWN) known.clear();
      known.set(key, width);
    }
    return width * size;
  };
}

/** Texts whose width is kept. */
const MOST_KNOWN = 50_000; // 1,000 to 500,000
