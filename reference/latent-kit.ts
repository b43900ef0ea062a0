import { readFileSync } from "node:fs";
import { join } from "node:path";
import { analyse, type Evidence, type StructureSection } from "../core";
import { readStudy } from "../formats";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

export const read = (name: string, file: string): string =>
  readFileSync(join(import.meta.dirname, "latent", name, file), "utf8");
export const expectedOf = (name: string): any => JSON.parse(read(name, "expected.json"));

/** A theory on the data of a case, through the reader and entry of app and command line. */
export function run(
  name: string,
  theory: string[],
  settings: object = {},
  more: object = {},
): { evidence: Evidence; section: StructureSection } {
  const study = {
    format: "hebel-study",
    version: 1,
    title: name,
    data: { csv: "data.csv" },
    theory,
    settings: { replications: 0, interval: "delta", ...settings },
    ...more,
  };
  const { definition, table } = readStudy(JSON.stringify(study), (path) => read(name, path));
  const evidence = analyse(definition, table);
  return { evidence, section: evidence.sections.find((s) => s.kind === "structure")! };
}

export class Ledger {
  readonly off: string[] = [];
  checked = 0;
  same(what: string, found: number | null | undefined, wanted: number | null | undefined): void {
    if (wanted === undefined) return;
    this.checked += 1;
    if (wanted === null ? found === null || found === undefined : near(found, wanted)) return;
    this.off.push(`${what}: ${String(found)} instead of ${String(wanted)}`);
  }
}

const near = (found: number | null | undefined, wanted: number): boolean =>
  found !== null &&
  found !== undefined &&
  Math.abs(found - wanted) <= 1e-5 * Math.max(0.1, Math.abs(wanted));

const SE = ["expected", "observed", "robust", "robust_expected", "naive", "normal_theory"];
const mirrored = (arrow: string): string => arrow.split(" <-> ").reverse().join(" <-> ");

/** Arrows of the cases, under the names that products have here. */
export function checkArrows(
  ledger: Ledger,
  section: StructureSection,
  wanted: any,
  group = section.groups[0]!,
  rename: (arrow: string) => string = (arrow) => arrow,
): void {
  for (const [stated, numbers] of Object.entries<any>(wanted)) {
    const arrow = rename(stated);
    const found = section.arrows.find(
      (a) => a.group === group && (a.arrow === arrow || a.arrow === mirrored(arrow)),
    );
    ledger.same(arrow, found?.estimate, numbers.est);
    for (const kind of SE) ledger.same(`${arrow} ${kind}`, found?.se[kind], numbers[`se_${kind}`]);
    ledger.same(`${arrow} full`, found?.full.estimate, numbers.std_full);
    ledger.same(`${arrow} full se`, found?.full.se, numbers.std_full_se);
    ledger.same(`${arrow} latent`, found?.latent.estimate, numbers.std_latent);
    ledger.same(`${arrow} latent se`, found?.latent.se, numbers.std_latent_se);
  }
}

export function checkFit(
  ledger: Ledger,
  { fit, information }: StructureSection,
  wanted: any,
): void {
  const plain = fit!.plain;
  for (const [key, found] of [
    ["chi2", plain.chi2],
    ["df", plain.df],
    ["p", plain.p],
    ["cfi", plain.cfi],
    ["tli", plain.tli],
    ["rmsea", plain.rmsea],
    ["close_fit_p", plain.closeFit],
    ["srmr", fit!.srmr],
    ["srmr_covariances_only", fit!.srmrCovariances],
    ["loglik", information?.logLikelihood],
    ["aic", information?.aic],
    ["bic", information?.bic],
    ["sabic", information?.sabic],
  ] as const)
    ledger.same(key, found, wanted[key]);
  for (const [key, found] of [
    ["satorra_bentler", fit!.satorraBentler],
    ["yuan_bentler", fit!.yuanBentler],
  ] as const) {
    ledger.same(`${key} c`, found?.scaling, wanted.scaled?.[key]?.scaling);
    ledger.same(`${key} p`, found?.p, wanted.scaled?.[key]?.p);
    ledger.same(`${key} cfi`, found?.robust.cfi, wanted.scaled?.[key]?.robust.cfi);
    ledger.same(`${key} rmsea`, found?.robust.rmsea, wanted.scaled?.[key]?.robust.rmsea);
  }
}

export function checkChanges(ledger: Ledger, section: StructureSection, wanted: any[] = []): void {
  for (const test of wanted) {
    const found = section.changes.find(
      (c) => c.arrow === test.arrow || c.arrow === mirrored(test.arrow as string),
    );
    ledger.same(`${test.arrow} mi`, found?.mi, test.mi);
    ledger.same(`${test.arrow} epc`, found?.epc, test.epc);
    ledger.same(`${test.arrow} sepc`, found?.sepc, test.sepc);
  }
}

/** Effects of one pair, both ways of measuring, with the errors in use. */
export function checkEffects(
  ledger: Ledger,
  { effects, errors }: Evidence,
  wanted: any = {},
): void {
  for (const [pair, { unstandardised, standardised }] of Object.entries<any>(wanted)) {
    const [from, to] = pair.split(" => ") as [string, string];
    for (const [prefix, set] of [
      ["", unstandardised],
      ["completely standardised ", standardised],
    ] as const) {
      const named: [string, any][] = [
        [`direct ${from} > ${to}`, set.direct],
        [`total ${from} > ${to}`, set.direct && set.total],
        ...Object.entries<any>(set.specific_indirect ?? {}).map(([path, value]): [string, any] => [
          `indirect ${path.split(" -> ").join(" > ")}`,
          value,
        ]),
      ];
      for (const [id, value] of named) {
        const found = effects.find((e) => e.id === `${prefix}${id}`);
        if (!value || !found) continue;
        ledger.same(`${prefix}${id}`, found.estimate, value.est);
        ledger.same(`${prefix}${id} se`, found.delta.joint[errors]?.se, value.se);
      }
    }
  }
}
