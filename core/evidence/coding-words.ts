import type { Evidence } from "./types";

/**
 * How the binary and categorical columns among these enter, in words: “site: 1 = north, 0 = south”.
 * A column of zeros and ones without labels says it itself.
 * @param variables names, or null for all of the model
 */
export function codingWords(
  { binary, codings }: Pick<Evidence, "binary" | "codings">,
  variables: readonly string[] | null = null,
): string {
  const wanted = (name: string): boolean => variables === null || variables.includes(name);
  const two = binary
    .filter((b) => wanted(b.variable) && !(b.zero === "0" && b.one === "1"))
    .map((b) => `${b.variable}: 1 = ${b.one}, 0 = ${b.zero}`);
  const more = codings
    .filter((c) => wanted(c.variable))
    .map(
      (c) =>
        `${c.variable}: ${c.coding} coding (${c.columns.map((column) => column.contrast).join(", ")})`,
    );
  const all = [...two, ...more];
  return all.length === 0 ? "" : `Coding: ${all.join("; ")}.`;
}
