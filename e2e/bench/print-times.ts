const at = (times: readonly number[], part: number): number =>
  times[Math.min(times.length - 1, Math.floor(times.length * part))]!;

/** Prints how long something took; gives the median. Units: milliseconds. */
export function printTimes(what: string, times: readonly number[]): number {
  const sorted = [...times].sort((a, b) => a - b);
  const [median, most, slowest] = [0.5, 0.95, 1].map((part) => at(sorted, part));
  const text = (ms: number) => `${ms.toFixed(0).padStart(3)} ms`;
  console.log(
    `${what.padEnd(30)} median ${text(median!)}, 19 in 20 under ${text(most!)}, slowest ${text(slowest!)} (${times.length} times)`,
  );
  return median!;
}
