import { listed } from "../wording";
import type { Evidence } from "./types";

/**
 * How the binary and categorical columns among these enter, in words: “site: 1 = north, 0 = south”.
 * A column of zeros and ones without labels says it itself. Ordered outcomes are named, too.
 * @param variables names, or null for all of the model
 */
export function codingWords(
  { binary, codings, sections = [] }: Coded,
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
  const coding = all.length === 0 ? [] : [`Coding: ${all.join("; ")}.`];
  return [...coding, ...tendencies(sections, wanted)].join(" ");
}

type Coded = Pick<Evidence, "binary" | "codings"> & Partial<Pick<Evidence, "sections">>;

/** Effects on answers taken as ordered are on what stands behind them. */
function tendencies(sections: Evidence["sections"], wanted: (name: string) => boolean): string[] {
  const names = sections
    .flatMap((s) => (s.kind === "structure" ? (s.ordered?.outcomes ?? []) : []))
    .filter(wanted);
  if (names.length === 0) return [];
  return [
    `Effects on ${listed(names)} are on the tendency behind ${names.length === 1 ? "its" : "their"} answers, in its SDs.`,
  ];
}
