// Charts: what draws figures, and is loaded where something is drawn. `index.ts` exports it too.
export { barStyle, CHART_COLOURS, CHART_FRAME, type ChartOption } from './page/chart-notation';
export { cumulatedOption, monthBlocks, monthsOf, monthsOption, notationWords } from './page/month-chart';
export { breakdownOption, heightOf } from './page/breakdown-chart';
export { chartedValues, chartOf, chartsOf } from './page/charted-values';
export { bridgeBars, bridgeHeight, cutWords, type BridgeSteps, underlyingSteps } from './page/bridge-chart';
