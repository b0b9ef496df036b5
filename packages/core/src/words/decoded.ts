/** What a part of an address says; one that is not encoded as such parts are stands for itself. */
export function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}
