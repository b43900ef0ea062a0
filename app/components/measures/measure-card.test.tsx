import { createRoutesStub } from "react-router";
import { describe, expect, it } from "vitest";
import { measuresEvidence, parseTheory, buildDataset, type Measure } from "../../../core";
import { madeStudy, normals } from "../../../core/test-kit";
import { markupOf, textOf } from "../test-kit";
import { MeasureCard } from "./measure-card";

const f = normals(80, 5);
const columns = Object.fromEntries(
  [1, 2, 3, 4].map((k) => {
    const e = normals(80, 50 + k);
    return [`a${k}`, f.map((v, i) => (k === 3 ? -1 : 1) * v + 0.8 * e[i]!)];
  }),
);

/** The card of the first measure of a theory, as it stands on the screen. */
function card(theory: string, items: "answers" | "moments" | "factors" = "answers"): string {
  const { definition, table } = madeStudy({ columns, theory });
  const measure = parseTheory(theory, Object.keys(columns)).statements.find(
    (s): s is Measure => s.kind === "measure",
  )!;
  const [evidence] = measuresEvidence(definition, buildDataset(definition, table));
  const Stub = createRoutesStub([
    {
      path: "/",
      Component: () => (
        <MeasureCard
          measure={measure}
          evidence={items === "factors" ? undefined : evidence}
          level={0.95}
          pool={["a4"]}
          items={items}
          means={items === "answers"}
          observed={[-3, 3]}
          change={() => undefined}
          rename={() => undefined}
          remove={() => undefined}
          explore={null}
          wordings={new Map()}
        />
      ),
    },
  ]);
  return markupOf(<Stub initialEntries={["/"]} />);
}

/** The choices of the list that a label names, or that stands behind it. */
const optionsOf = (html: string, label: string): string[] => {
  const at = html.indexOf(label);
  const before = html.lastIndexOf("<select", at);
  const named = before >= 0 && html.indexOf(">", before) > at;
  const select = /<select[^>]*>(.*?)<\/select>/s.exec(html.slice(named ? before : at))![1]!;
  return [...select.matchAll(/<option[^>]*>([^<]*)/g)].map((m) => m[1]!);
};

describe("a measure on its card", () => {
  it("is told by alpha and omega, and an item that runs against the others is offered to be turned", () => {
    const text = textOf(card("measure calm averages a1, a2, a3"));
    expect(text).toMatch(/alpha −?\d\.\d{2,3}/);
    expect(text).toContain("Reverse a3");
    expect(text).toContain("a score needs");
    expect(text).not.toContain("its scale comes from");
  });

  it("takes its scale from an item, a variance or the settings where it is a factor", () => {
    const html = card("measure calm reflects a1, a2, a4 scaled by a2");
    expect(optionsOf(html, "its scale comes from")).toEqual([
      "the settings",
      "a variance of 1",
      ...["a1", "a2", "a4"],
    ]);
    expect(html.slice(html.indexOf("its scale comes from"))).toMatch(/selected="">a2</);
    expect(textOf(html)).not.toContain("a score needs");
  });

  it("asks for the reliability of a single item, and shows one that is known", () => {
    const html = card("measure calm reflects a1 with reliability 0.8");
    expect(textOf(html)).toContain("known reliability of a1");
    expect(html).toContain('value="0.8"');
    expect(html).not.toContain("its scale comes from");
  });

  it("weights items where it is a composite", () => {
    const text = textOf(card("measure calm combines a1, a2 weighted equally"));
    expect(text).toContain("weighted");
    expect(text).toContain("a higher score is more of");
  });

  it("can be nothing but a factor where its items are factors, or nothing but covariances is known", () => {
    for (const items of ["moments", "factors"] as const) {
      const html = card("measure calm reflects a1, a2, a4", items);
      expect(optionsOf(html, "How calm is made")).toEqual(["common factor"]);
      expect(textOf(html)).not.toContain("answers run from");
    }
    expect(textOf(card("measure calm reflects a1, a2", "factors"))).toContain("of second order");
    // Of a matrix alpha is known as well.
    expect(textOf(card("measure calm reflects a1, a2, a4", "moments"))).toContain("omega");
  });
});
