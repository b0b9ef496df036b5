import type { NativeChart, PageBlock } from '@margin-lens/core';

type ChartBlock = Extract<PageBlock, { kind: 'chart' }>;

/** What a chart of a page shows, in words, for who does not see it. */
export const chartSays = ({ title, words }: ChartBlock, chart: NativeChart): string =>
  [title, chart.title, words].filter(Boolean).join(', ') || 'Chart';

/** Words that stand where a chart is to be. @param at its place among those of the file */
export const chartMark = (at: number): string => `chart-${at + 1}-of-this-file`;
