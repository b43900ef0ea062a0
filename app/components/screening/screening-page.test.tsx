import { describe, expect, it } from "vitest";
import { buildDataset, dataEvidence, measuresEvidence, plain, summarise } from "../../../core";
import { madeStudy, normals } from "../../../core/test-kit";
import { markupOf, textOf } from "../test-kit";
import { ItemTable } from "../measures/item-table";
import { CorrelationMap } from "./correlation-map";
import { DescriptivesTable } from "./descriptives-table";
import { FindingsList } from "./findings-list";

const N = 90;
const [a, b, c, d] = [61, 62, 63, 64].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const item = (noise: number[], sign = 1): number[] =>
  a.map((v, i) => Math.min(7, Math.max(1, Math.round(4 + sign * v + 0.8 * noise[i]!))));
const columns = {
  id: a.map((_, i) => (i === 5 ? "P4" : `P${i}`)),
  hours: a.map((v, i) => (i === 7 ? 400 : i % 9 === 0 ? null : 10 + v)),
  still: a.map(() => 3),
  q1: item(b),
  q2: item(c),
  q3: item(d, -1),
  belonging: a.map((v, i) => v + b[i]!),
};
const { definition, table } = madeStudy({
  columns,
  theory:
    "measure confidence averages q1, q2, q3 on 1 to 7\nH1: hours raises belonging through confidence",
  variables: { id: { level: "identifier" }, hours: { range: [0, 40] } },
});
const dataset = buildDataset(definition, table);
const data = dataEvidence(definition, table);
const nothing = (): void => undefined;
describe("the screening page", () => {
  const text = textOf(markupOf(<FindingsList data={data} apply={nothing} show={nothing} />));

  it("tells every finding with the words of its remedies", () => {
    expect(data.findings.length).toBeGreaterThan(3);
    for (const finding of data.findings) {
      expect(text).toContain(finding.message);
      for (const remedy of finding.remedies) expect(text).toContain(remedy.words);
    }
    expect(text).toMatch(/P4/);
    expect(text).toMatch(/400/);
    expect(text).toMatch(/still/);
  });

  it("is calm about data without a fault", () => {
    const html = markupOf(
      <FindingsList data={{ ...data, findings: [] }} apply={nothing} show={nothing} />,
    );
    expect(textOf(html)).toContain("Nothing in these data stands in the way of an analysis.");
  });

  it("describes every numeric variable in a row", () => {
    const summaries = dataset.table.columns.map((column, j) =>
      summarise(column, dataset.variables[j]!),
    );
    const html = markupOf(<DescriptivesTable data={data} summaries={summaries} />);
    for (const v of Object.values(data.descriptives)) {
      expect(textOf(html)).toContain(v.name);
      expect(textOf(html)).toContain(`${plain(v.mean)} ${plain(v.sd)}`);
    }
  });

  it("shows each correlation once, without a leading zero", () => {
    const [set] = Object.values(data.sets);
    const { pairwise, listwise } = set!.correlations;
    const html = textOf(
      markupOf(<CorrelationMap pairwise={pairwise} listwise={listwise} level={0.95} />),
    );
    for (const cell of pairwise.cells) {
      if (cell.pearson === null) continue;
      expect(html).toContain(cell.pearson.r.toFixed(2).replace("-", "−").replace(/0\./, "."));
    }
    expect(html).toContain(`the ${listwise.n} complete rows`);
  });
});

describe("the items of a measure", () => {
  it("mark the one that is keyed the other way, and what alpha would be without it", () => {
    const [evidence] = measuresEvidence(definition, dataset);
    const html = markupOf(
      <ItemTable
        means
        measure={dataset.measures[0]!}
        evidence={evidence}
        wordings={new Map()}
        turn={nothing}
        remove={nothing}
      />,
    );
    expect(html.match(/aria-label="deserves a look"/g)).toHaveLength(1);
    expect(textOf(html)).toMatch(/◆ q3/);
    const { itemStatistics } = evidence!.reliability.value!;
    for (const statistics of itemStatistics)
      expect(textOf(html)).toContain(plain(statistics.alphaIfDropped));
  });
});
