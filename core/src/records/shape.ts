/**
 * Makes objects that all have the same keys, null to begin with.
 *
 * V8 keeps an object that grew key by key in a slow form: 20,000 lines of trees took three seconds to put together, most of
 * it in a single spread. An object that was parsed stays in the fast form, and so do its copies.
 * @returns a maker of such objects
 */
export function shapeOf(keys: readonly string[]): () => Record<string, unknown> {
  const first = JSON.parse(JSON.stringify(Object.fromEntries(keys.map((key) => [key, null])))) as object;
  return () => ({ ...first });
}

/** Writes what a part says into an object of a shape. */
export function fill(into: Record<string, unknown>, part: object | null): void {
  if (part) for (const key in part) into[key] = (part as Record<string, unknown>)[key];
}
