/**
 * The value a record holds under a key that people have written: a column called “constructor” or a
 * level called “toString” must not find what every object inherits.
 * @returns undefined where the record itself has no such key
 */
export const own = <T>(
  record: Readonly<Record<string, T>> | undefined,
  key: string,
): T | undefined => (record !== undefined && Object.hasOwn(record, key) ? record[key] : undefined);
