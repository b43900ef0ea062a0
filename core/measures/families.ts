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

/** Neighbouring columns that are answered on one scale. */
export interface AnswerBattery {
  items: string[];
  low: number;
  high: number;
}

/** What is known of a column's answers. */
export interface AnsweredColumn {
  name: string;
  min: number | null;
  max: number | null;
  distinct: number;
}

const FEWEST_ALIKE = 3;
/** Scales of answers have at most eleven steps (0 to 10). */
const WIDEST = 10;

/**
 * Likely batteries by their answers, where names say nothing: neighbours in the order of the data
 * with whole numbers on a scale of at most eleven steps, whose ends differ by no more than one
 * (not everybody uses the ends). Yes-or-no columns count among themselves only.
 */
export function answeredAlike(columns: readonly AnsweredColumn[]): AnswerBattery[] {
  const found: AnswerBattery[] = [];
  let run: (AnsweredColumn & { min: number; max: number })[] = [];
  const end = (): void => {
    if (run.length >= FEWEST_ALIKE)
      found.push({
        items: run.map((c) => c.name),
        low: Math.min(...run.map((c) => c.min)),
        high: Math.max(...run.map((c) => c.max)),
      });
    run = [];
  };
  for (const column of columns) {
    const { min, max, distinct } = column;
    if (min === null || max === null || !onScale(min, max, distinct)) {
      end();
      continue;
    }
    const [low, high] = [Math.min(...run.map((c) => c.min)), Math.max(...run.map((c) => c.max))];
    const alike =
      run.length === 0 ||
      (Math.abs(low - min) <= 1 && Math.abs(high - max) <= 1 && high - low > 1 === max - min > 1);
    if (!alike) end();
    run.push({ ...column, min, max });
  }
  end();
  return found;
}

const onScale = (min: number, max: number, distinct: number): boolean =>
  Number.isInteger(min) &&
  Number.isInteger(max) &&
  distinct >= 2 &&
  max - min <= WIDEST &&
  distinct <= max - min + 1;
