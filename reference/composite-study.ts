import { analyse, type CompositeSection, type Evidence } from "../core";
import { readStudy } from "../formats";
import { readComposite } from "./composite-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const WEIGHTED: Record<string, string> = {
  A: "",
  B: " weighted by regression",
  equal: " weighted equally",
  single: "",
};

/** The model of a case in the words of the notation: each path a hypothesis, each product a moderation. */
export function theoryOf(model: any, factors = false): string[] {
  return [
    ...model.constructs.map((c: any) => {
      const form = (factors && c.mode === "A") || c.reliability ? "reflects" : "combines";
      const sign = c.dominant ? ` signed by ${c.dominant}` : "";
      const known = c.reliability ? ` with reliability ${c.reliability}` : "";
      return `measure ${c.name} ${form} ${c.indicators.join(", ")}${WEIGHTED[c.mode] ?? ""}${sign}${known}`;
    }),
    ...model.paths.map(
      ([from, to]: [string, string], i: number) => `H${i + 1}: ${from} affects ${to}`,
    ),
    ...(model.products ?? []).map(
      ({ of, to }: any, i: number) => `M${i + 1}: ${of[1]} alters ${of[0]} to ${to}`,
    ),
  ];
}

/** Runs a theory on the data of a case through the same reader and entry as the app and the command line. */
export function runComposite(
  name: string,
  theory: string[],
  settings: Record<string, unknown> = {},
  more: Record<string, unknown> = {},
): Evidence {
  const study = {
    format: "hebel-study",
    version: 1,
    title: name,
    unit: "gardeners",
    data: { csv: "data.csv" },
    theory,
    settings: { engine: "composites", replications: 0, ...settings },
    ...more,
  };
  const { definition, table } = readStudy(JSON.stringify(study), (path) =>
    readComposite(name, path),
  );
  return analyse(definition, table);
}

export const sectionOf = ({ sections }: Evidence): CompositeSection =>
  sections.find((s) => s.kind === "composites")!;
