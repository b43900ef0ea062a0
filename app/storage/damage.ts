import { definitionLists } from "../../formats/study-parts";
import { database, type StoredSheet, type StoredStudy } from "./database";

/** A study whose row in the database is not what it should be. */
export interface DamagedStudy {
  id: string;
  title: string;
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const TEXTS = ["title", "question", "unit", "theory"];

/** Has the row everything that the screens read without asking? */
export function isWhole(study: unknown): study is StoredStudy {
  if (!isObject(study) || typeof study.dataKey !== "string" || typeof study.id !== "string")
    return false;
  const { definition } = study;
  return (
    isObject(definition) &&
    isObject(definition.settings) &&
    definitionLists.safeParse(definition).success &&
    TEXTS.every((key) => typeof definition[key] === "string") &&
    typeof study.updatedAt === "number" &&
    typeof study.rows === "number"
  );
}

/** Can the data be unpacked? */
export function isWholeSheet(sheet: StoredSheet | undefined): sheet is StoredSheet {
  const table = sheet?.table as unknown;
  return (
    isObject(table) &&
    typeof table.rows === "number" &&
    Array.isArray(table.columns) &&
    table.columns.every((column) => isObject(column) && typeof column.name === "string")
  );
}

const titleOf = (row: unknown): string => {
  const definition = isObject(row) && isObject(row.definition) ? row.definition : {};
  return typeof definition.title === "string" && definition.title !== ""
    ? definition.title
    : "A study";
};

/**
 * Studies on the shelf that cannot be opened; they are listed, so that what is left of them can be
 * taken out.
 */
export async function damagedStudies(): Promise<DamagedStudy[]> {
  const rows: unknown[] = await database.studies.toArray();
  return rows
    .filter((row) => !isWhole(row))
    .map((row) => ({ id: isObject(row) ? String(row.id) : "", title: titleOf(row) }));
}

/** Everything that is stored of a study, as JSON: for one that cannot be opened. */
export async function remainsOf(id: string): Promise<string> {
  const study: unknown = await database.studies.get(id);
  const pages = await database.pages.where("study").equals(id).toArray();
  const history = await database.histories.get(id);
  const plain = (_: string, value: unknown): unknown =>
    ArrayBuffer.isView(value) ? Array.from(value as unknown as ArrayLike<number>) : value;
  return JSON.stringify({ study, pages, history }, plain, 2);
}
