import { createRoutesStub } from "react-router";
import { describe, expect, it } from "vitest";
import { analyse, plain, type CompositeSection, type Evidence } from "../../../core";
import { demoCompositesStudy } from "../../../demo/composites";
import { markupOf, textOf } from "../test-kit";
import { CompositeView } from "./composite-view";
import { ConstructTable, ItemTable, PairTable } from "./measurement-tables";
import { compositeShortcomings } from "./shortcomings";

const { definition, table } = demoCompositesStudy();
const evidenceAt = (level: number): Evidence =>
  analyse(
    {
      ...definition,
      settings: { ...definition.settings, level, replications: 60, interval: "percentile" },
    },
    table,
  );
const sectionOf = ({ sections }: Evidence): CompositeSection =>
  sections.flatMap((s) => (s.kind === "composites" ? [s] : []))[0]!;
const evidence = evidenceAt(0.95);
const section = sectionOf(evidence);
const group = section.groups[0]!;

function shown(of: Evidence): string {
  const Stub = createRoutesStub([
    { path: "/", Component: () => <CompositeView section={sectionOf(of)} evidence={of} /> },
  ]);
  return textOf(markupOf(<Stub initialEntries={["/"]} />));
}

describe("a composite model on the page", () => {
  const text = shown(evidence);

  it("shows every path with its size, limits and f², under the level of the study", () => {
    for (const path of group.paths) {
      expect(text).toContain(path.from.replace(" x ", " × "));
      expect(text).toContain(plain(path.reported!.estimate));
      expect(text).toContain(plain(path.reported!.se));
      if (path.f2 !== null) expect(text).toContain(path.f2.toFixed(3));
    }
    expect(text).toContain("95 % CI");
    expect(shown(evidenceAt(0.9))).toContain("90 % CI");
  });

  it("says method and fit in the sentences of the evidence", () => {
    expect(text).toContain(section.method.words);
    for (const sentence of section.fitWords) expect(text).toContain(sentence);
  });
});

describe("its measurement", () => {
  const tables = (of = group): string =>
    textOf(
      markupOf(
        <>
          <ConstructTable group={of} where="" />
          <ItemTable group={of} where="" level={0.95} leaveOut={() => undefined} />
          <PairTable group={of} where="" level={0.95} />
        </>,
      ),
    );

  it("has loadings, weights and reliabilities as they were found", () => {
    const text = tables();
    for (const construct of group.constructs) {
      expect(text).toContain(construct.construct);
      if (construct.kind === "single") continue;
      for (const { item, loading, weight } of construct.items) {
        expect(text).toContain(item);
        expect(text).toContain(plain(loading.estimate));
        expect(text).toContain(plain(weight.estimate));
      }
    }
    for (const pair of group.htmt) expect(text).toContain(`${pair.first}, ${pair.second}`);
  });

  it("names what falls short, and nothing where nothing does", () => {
    const sound = {
      ...group,
      htmt: group.htmt.map((pair) => ({ ...pair, htmt: 0.2 })),
      constructs: group.constructs.map((c) => ({
        ...c,
        fornellLarcker: true,
        quality: { ...c.quality, rhoA: 0.9, compositeReliability: 0.9, ave: 0.7, alpha: 0.9 },
        vif: 1.2,
        items: c.items.map((i) => ({
          ...i,
          vif: 1.3,
          closerTo: null,
          loading: { ...i.loading, estimate: 0.85 },
        })),
      })),
    };
    expect(compositeShortcomings(sound)).toEqual([]);
    const [first, ...rest] = sound.constructs;
    const [item, ...others] = first!.items;
    const collinear = {
      ...sound,
      constructs: [{ ...first!, items: [{ ...item!, vif: 7 }, ...others] }, ...rest],
    };
    expect(compositeShortcomings(collinear).join(" ")).toContain(item!.item);
  });
});
