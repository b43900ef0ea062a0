import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { shortNames } from "./short-names";

describe("short names for wordings", () => {
  it("leaves names alone", () => {
    expect(shortNames(["age", "conf1", "Household income (month)"])).toBeNull();
  });

  it("numbers what begins alike, in the order of the data", () => {
    expect(
      shortNames([
        "age",
        "Agreement: I feel at home in this café",
        "Agreement: I would miss this café",
        "Agreement: people here know my name",
      ]),
    ).toEqual(["age", "agreement_1", "agreement_2", "agreement_3"]);
  });

  it("takes a code before the wording", () => {
    expect(
      shortNames(["Q1. How often do you come here?", "Q2. How long do you stay, mostly?"]),
    ).toEqual(["Q1", "Q2"]);
  });

  it("takes the first telling words where nothing is shared", () => {
    expect(
      shortNames(["Wie oft fühlen Sie sich müde am Abend?", "How long did you sleep last night"]),
    ).toEqual(["fühlen_sich", "long_sleep"]);
  });

  it("never gives a name twice, never none, and keeps what is short", () => {
    const header = fc.oneof(
      fc.string({ maxLength: 60 }),
      fc.constantFrom("agreement_1", "Agreement: I like it here a lot", "Q1 a b c d e f", "Q1"),
    );
    fc.assert(
      fc.property(fc.uniqueArray(header, { minLength: 1, maxLength: 20 }), (headers) => {
        const names = shortNames(headers);
        if (!names) return;
        expect(new Set(names).size).toBe(headers.length);
        names.forEach((name, j) => {
          if (name !== headers[j]) expect(name).toMatch(/^[\p{L}\p{N}_-]+$/u);
        });
      }),
    );
  });
});
