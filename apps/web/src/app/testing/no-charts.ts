/** Stands for the chart library where nothing is drawn. */
export const init = () => ({ setOption: () => undefined, resize: () => undefined, dispose: () => undefined });
