import { describe, expect, it } from "vitest";
import { buildDataset } from "../dataset";
import { madeStudy, normals } from "../test-kit";
import { analyse } from "./analyse";
import { keepingEverybody, settingMends } from "./mends";
import type { Settings } from "../study";

const n = 60;
const [x, m, y] = [1, 2, 3].map((seed) => normals(n, seed));
const columns = {
  x: x!,
  m: m!.map((e, i) => e + 0.5 * x![i]!),
  y: y!.map((e, i) => e + 0.5 * m![i]!),
  twice: x!.map((v) => 2 * v),
  class: Array.from({ length: n }, (_, i) => `c${i % 12}`),
  site: Array.from({ length: n }, (_, i) => `s${i % 2}`),
};
const mendsOf = (settings: Partial<Settings>, theory = "H1: x raises y through m") => {
  const { definition, table } = madeStudy({ columns, theory, settings });
  return settingMends(definition, table, buildDataset(definition, table)).map((mend) => {
    // What a button does lets the study be analysed.
    analyse({ ...definition, settings: { ...mend.settings, replications: 0 } }, table);
    return mend.words;
  });
};

describe("settings that stop an analysis", () => {
  it("are mended by the one that does, in words for a button", () => {
    expect(mendsOf({ cluster: "class", interval: "bootstrap_t" })).toEqual([
      "Take the cluster column class out",
      "Use BCa intervals",
    ]);
    expect(mendsOf({ cluster: "class", strata: "site" })).toEqual([
      "Take the cluster column class out",
      "Do not draw within site",
    ]);
    expect(mendsOf({ level: 1.5 })).toEqual(["Set the confidence level to 95 %"]);
    expect(mendsOf({ options: { sorts: 3 } })).toEqual(["sorts: none"]);
  });

  it("all go back where no single one is enough", () => {
    expect(mendsOf({ level: 1.5, seed: -1 })).toEqual(["Back to the default settings"]);
  });

  it("offer nothing where something else stops it", () => {
    expect(mendsOf({}, "H1: x raises y through twice")).toEqual([]);
  });
});

it("everybody is kept by full information where the model allows it, and nothing is offered elsewhere", () => {
  const holes = { ...columns, m: columns.m.map((v, i) => (i % 3 === 0 ? null : v)) };
  const kept = (theory: string, interval: Settings["interval"] = "bca") => {
    const made = madeStudy({ columns: holes, theory, settings: { interval } });
    const { definition, table } = made;
    const way = keepingEverybody(definition, table, buildDataset(definition, table));
    if (!way) return null;
    const { sample } = analyse({ ...definition, settings: way.settings }, table);
    return `${way.words}: ${sample.n}`;
  };
  const theory = "H1: x raises y through m";
  expect(kept(theory)).toBe(`Keep everybody, by full information: ${n}`);
  expect(kept(theory, "bootstrap_t")).toBe(
    `Keep everybody, by full information, with BCa intervals: ${n}`,
  );
  expect(kept("H1: x raises y through twice")).toBeNull();
});
