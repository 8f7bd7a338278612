/** Places in a definition, and copies with one place changed. */
export type Path = readonly (string | number)[];

/** A copy of a value with another value at a path. */
export function setAt<T>(whole: T, path: Path, value: unknown): T {
  if (path.length === 0) return value as T;
  const [key, ...rest] = path;
  if (Array.isArray(whole)) {
    const copy = [...whole];
    copy[key as number] = setAt(copy[key as number], rest, value);
    return copy as T;
  }
  const object = whole as Record<string, unknown>;
  // Setting nothing takes the key out: what is not said is as usual.
  if (rest.length === 0 && value === undefined) {
    const { [key]: _, ...others } = object;
    return others as T;
  }
  return {
    ...object,
    [key]: setAt(
      object[key as string] ?? (rest.length > 0 && typeof rest[0] === 'string' ? {} : undefined),
      rest,
      value,
    ),
  } as T;
}

export function getAt(whole: unknown, path: Path): unknown {
  let at = whole;
  for (const key of path) at = (at as Record<PropertyKey, unknown> | null | undefined)?.[key];
  return at;
}
