import type { Moments, Table, TextColumn } from "./table";

/**
 * A column whose distinct texts are one string: what is stored and posted between threads. Copying
 * millions of short strings takes seconds, copying one long string takes none.
 */
export interface PackedColumn {
  name: string;
  codes: Int32Array;
  /** The dictionary's texts one after another. */
  joined: string;
  /** End of each text within `joined`. */
  ends: Int32Array;
}

export interface PackedTable {
  rows: number;
  moments?: Moments;
  columns: PackedColumn[];
}

/** The packed form a lazy column came from, so that packing it again costs nothing. */
const sources = new WeakMap<TextColumn, PackedColumn>();

export function packTable({ columns, ...rest }: Table): PackedTable {
  return { ...rest, columns: columns.map((column) => sources.get(column) ?? packColumn(column)) };
}

function packColumn({ name, codes, dictionary }: TextColumn): PackedColumn {
  const ends = new Int32Array(dictionary.length);
  let end = 0;
  dictionary.forEach((text, i) => {
    end += text.length;
    ends[i] = end;
  });
  return { name, codes, joined: dictionary.join(""), ends };
}

/** The table again; a column's dictionary is cut apart when it is first looked at. */
export function unpackTable({ columns, ...rest }: PackedTable): Table {
  return { ...rest, columns: columns.map(lazyColumn) };
}

function lazyColumn(packed: PackedColumn): TextColumn {
  let dictionary: string[] | null = null;
  const column: TextColumn = {
    name: packed.name,
    codes: packed.codes,
    get dictionary() {
      dictionary ??= Array.from(packed.ends, (end, i) =>
        packed.joined.slice(i === 0 ? 0 : packed.ends[i - 1]!, end),
      );
      return dictionary;
    },
  };
  sources.set(column, packed);
  return column;
}
