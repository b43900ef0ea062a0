import { describe, expect, it } from "vitest";
import { wordsOf, type HypothesisEvidence } from "../../evidence";
import { analyseMade, normals } from "../../test-kit";

const N = 160;
const group = normals(N, 1).map((v) => (v > 0 ? "cafe" : "list"));
const e = normals(N, 2);
const w = normals(N, 3);
const hours = e.map((v, i) => 2 + v + (group[i] === "cafe" ? 0.8 : 0));
const renewed = hours.map((v, i) => (v - 2.3 + normals(N, 4)[i]! > 0 ? "yes" : "no"));
const visits = hours.map((v) => Math.max(0, Math.round(v)));
const mood = hours.map((v, i) => 0.5 * v + normals(N, 5)[i]!);

const claims = (...theory: string[]): HypothesisEvidence[] =>
  analyseMade({ columns: { group, w, hours, renewed, visits, mood }, theory: theory.join("\n") })
    .hypotheses;

describe("what a verdict on a response rests on", () => {
  it("is the total natural indirect effect, and a difference in probability", () => {
    const [h1, h2] = claims("H1: group raises renewed through hours", "H2: group raises renewed");
    expect(h1).toMatchObject({
      quantity: "total natural indirect effect",
      measure: "difference in probability",
    });
    expect(h1!.reason).toContain(
      "It rests on the total natural indirect effect: what changes if hours alone is as under list instead of cafe.",
    );
    expect(h1!.report).toMatch(
      /^The total natural indirect effect of group on renewed through hours .* \(difference in probability = /,
    );
    expect(h2!.quantity).toBe("pure natural direct effect");
    expect(h2!.report).toMatch(/^The pure natural direct effect of group on renewed /);
  });

  it("is a natural effect of the levels compared, where one of them is the reference", () => {
    const three = group.map((g, i) => (i % 3 === 0 ? "partner" : g));
    const analysed = (levels: string): HypothesisEvidence =>
      analyseMade({
        columns: { group: three, hours, renewed },
        theory: `H1: group (${levels}) raises renewed through hours`,
        variables: { group: { level: "categorical", levels: ["list", "cafe", "partner"] } },
      }).hypotheses[0]!;
    const natural = analysed("cafe against list");
    expect(natural.quantity).toBe("total natural indirect effect");
    expect(natural.report).toMatch(
      /^The total natural indirect effect of group \(cafe against list\) on renewed through hours .* \(difference in probability = /,
    );
    expect(natural.reason).toContain("as under cafe instead of list.");
    // Two natural effects differ by no natural effect.
    const other = analysed("partner against cafe");
    expect(other).toMatchObject({ measure: "difference in probability", named: null });
  });

  it("is told in mean counts where the response is a count", () => {
    const [h1, h2] = claims(
      "H1: group raises visits through hours",
      "H2: hours raises visits",
      "model visits as poisson",
    );
    expect(h1!.measure).toBe("difference in mean count");
    // A mediator's own step is an average over the sample, and has no natural effect.
    expect(h2).toMatchObject({ quantity: "direct effect", measure: "difference in mean count" });
  });

  it("is told on the scale of the model where a step is moderated", () => {
    const [h1, h2] = claims(
      "H1: w strengthens hours to renewed",
      "H2: w strengthens hours to mood",
    );
    expect(h1).toMatchObject({ quantity: "interaction", measure: "b in log odds", named: null });
    expect(h1!.report).toContain("(b in log odds = ");
    expect(h2!.measure).toBe("b");
  });

  it("keeps probabilities and log odds apart where one path of the two is moderated", () => {
    const theory = ["H1: group raises renewed through hours", "H2: w strengthens group to renewed"];
    const evidence = analyseMade({
      columns: { group, w, hours, renewed, visits, mood },
      theory: theory.join("\n"),
    });
    const [natural] = evidence.sections.flatMap((s) =>
      s.kind === "responses" ? s.natural.filter((n) => n.at === null) : [],
    );
    const wanted = natural!.effects.difference!.find((f) => f.name === "total_natural_indirect")!;
    const [h1, h2] = evidence.hypotheses;
    expect(h1!.claim!.estimate).toBeCloseTo(wanted.estimate, 12);
    expect(h1!.quantity).toBe("total natural indirect effect");
    expect(h2!.measure).toBe("b in log odds");
    const find = (id: string) => evidence.effects.find((f) => f.id.startsWith(id));
    expect(
      find("indirect group.1 > hours > renewed") ?? find("indirect group > hours"),
    ).toMatchObject({ scale: null });
    const average = find("average direct group")!;
    expect(average.scale).toBe("log odds");
    expect(wordsOf(average, "raw", evidence)).toBe("average direct (log odds)");
    // What is on two scales adds up to nothing.
    expect(find("average total group")).toBeUndefined();
    expect(find("partially standardised indirect group")).toBeUndefined();
  });

  it("is no natural effect where a sentence names some of several straight lines alone", () => {
    const { hypotheses } = analyseMade({
      columns: { group, w, hours, visits, mood },
      theory: [
        "H1: group raises mood through hours and w",
        "also group to visits",
        "also visits to mood",
      ].join("\n"),
      settings: { engine: "generalised" },
    });
    expect(hypotheses[0]).toMatchObject({ measure: "difference in means", named: null });
  });

  it("is a coefficient everywhere else", () => {
    const [h1] = claims("H1: group raises mood through hours");
    expect(h1).toMatchObject({ quantity: "indirect effect", measure: "b", named: null });
    expect(h1!.report).toContain("(b = ");
  });
});
