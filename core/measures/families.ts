/** Columns whose names differ in a running number: conf1, conf2, conf3r, conf4. */
export interface ItemFamily {
  stem: string;
  items: string[];
}

const NUMBERED = /^(.*?\D)[_. -]?(\d{1,3})([a-zA-Z]{0,2})$/;
const FEWEST = 2;

/** Finds likely batteries among names, in the order of the data. */
export function itemFamilies(names: readonly string[]): ItemFamily[] {
  const found = new Map<string, ItemFamily>();
  for (const name of names) {
    const match = NUMBERED.exec(name);
    if (!match) continue;
    const stem = match[1]!.replace(/[_. -]+$/, "");
    const key = stem.toLowerCase();
    const known = found.get(key);
    if (known) known.items.push(name);
    else found.set(key, { stem, items: [name] });
  }
  return [...found.values()].filter((family) => family.items.length >= FEWEST);
}
