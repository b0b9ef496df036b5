import type { Measure, PaperFont } from '@margin-lens/core';

/** Widths are measured at this size, and scale with it. */
const MEASURED_AT = 100;
const SANS = "'Source Sans 3 Variable', sans-serif";

/** Fonts of paper as the interface has them. */
const FONTS: Readonly<Record<PaperFont, string>> = {
  sans: `${MEASURED_AT}px ${SANS}`,
  strong: `600 ${MEASURED_AT}px ${SANS}`,
  slanted: `italic ${MEASURED_AT}px ${SANS}`,
  strong_slanted: `italic 600 ${MEASURED_AT}px ${SANS}`,
  serif: `600 ${MEASURED_AT}px 'Source Serif 4 Variable', serif`,
};

/** Measures texts as the screen draws them. */
export function screenMeasure(): Measure {
  const canvas = document.createElement('canvas').getContext('2d')!;
  return (text, font, size) => {
    canvas.font = FONTS[font];
    return (canvas.measureText(text).width / MEASURED_AT) * size;
  };
}
