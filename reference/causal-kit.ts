import { readFileSync } from "node:fs";
import { join } from "node:path";
import { analyse, type Evidence, type ResponseSection } from "../core";
import { readStudy } from "../formats";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const here = join(import.meta.dirname, "causal");

export const readCausal = (name: string, file: string): string =>
  readFileSync(join(here, name, file), "utf8");

export const expectedCausal = (name: string): any => JSON.parse(readCausal(name, "expected.json"));

/** Indicators of a categorical column by the names they have in the files (`group2` is level 2 of `group`). */
const sourceOf = (term: string, levels: any): string =>
  typeof levels?.[term] === "object" ? levels[term].from : term;

/** A request of a file in the words of the notation. */
export function causalTheory(s: any): string[] {
  const own = (term: string): string => sourceOf(term, s.event_levels);
  const treatments = Object.keys(s.contrasts[0].x1).map(own);
  const [treatment] = [...new Set(treatments)] as [string];
  const plain = (terms: string[]): string[] => [
    ...new Set(terms.filter((t) => !t.includes(":")).map(own)),
  ];
  const others = (terms: string[]): string[] =>
    plain(terms).filter((t) => t !== treatment && t !== s.mediator);
  const [forM, forY] = [others(s.mediator_terms), others(s.outcome_terms)];
  const [first] = s.contrasts;
  const [x1, x0] = [first.x1[treatment], first.x0[treatment]];
  return [
    `H1: ${treatment} raises ${s.outcome} through ${s.mediator}`,
    ...(forM.length > 0 ? [`adjust ${s.mediator} for ${forM.join(", ")}`] : []),
    ...(forY.length > 0 ? [`adjust ${s.outcome} for ${forY.join(", ")}`] : []),
    `model ${s.outcome} as ${s.outcome_family}`,
    `model ${s.mediator} as ${s.mediator_family}`,
    ...(treatments.length === 1 && !(x1 === 1 && x0 === 0)
      ? [`compare ${treatment} at ${x1} with ${x0}`]
      : []),
    `control ${s.mediator} at ${s.controlled_direct_at.join(", ")}`,
  ];
}

export function runCausal(
  name: string,
  theory: string[],
  settings: Record<string, unknown> = {},
  variables: Record<string, unknown> = {},
): Evidence {
  const study = {
    format: "hebel-study",
    version: 1,
    title: name,
    unit: "gardeners",
    data: { csv: "data.csv" },
    theory,
    variables,
    settings: { engine: "generalised", replications: 0, interval: "delta", ...settings },
  };
  const { definition, table } = readStudy(JSON.stringify(study), (path) => readCausal(name, path));
  return analyse(definition, table);
}

export const responsesOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;

/** Differences from a file: relative, absolute near zero. */
export function off(
  found: number | null | undefined,
  wanted: number | null,
  where: string,
  relative = 1e-6,
) {
  if (wanted === null) return found === null || found === undefined ? [] : [where];
  const close = Math.abs(found! - wanted) <= Math.max(relative * Math.abs(wanted), 1e-8);
  return close ? [] : [`${where}: ${found} instead of ${wanted}`];
}
