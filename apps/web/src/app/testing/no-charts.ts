/** Stands for the chart library where nothing is drawn. */
export const init = () => ({
  on: () => undefined,
  setOption: () => undefined,
  resize: () => undefined,
  dispose: () => undefined,
});
