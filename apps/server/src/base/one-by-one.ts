/** Does works one after the other, in the order in which they were asked for; one that fails keeps none behind it from being done. */
export class OneByOne {
  private last: Promise<unknown> = Promise.resolve();

  do<T>(work: () => Promise<T>): Promise<T> {
    const done = this.last.then(work);
    this.last = done.catch(() => undefined);
    return done;
  }
}
