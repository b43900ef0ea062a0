import { DEFAULT_REPORT, equationsOf, registrationOf } from "../core";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  analyse,
  cell,
  DEFAULT_SETTINGS,
  newDefinition,
  TableBuilder,
  type Variable,
} from "../core";
import { demoStudy } from "../demo/study";
import {
  applyCodebook,
  codebookCsv,
  decodeText,
  FormatProblem,
  guessHeader,
  guessSeparator,
  matrixOf,
  openData,
  readData,
  neutralise,
  readDelimited,
  readStudy,
  studyJsonSchema,
  writeStudy,
} from ".";
import { readFileSync } from "node:fs";

const read = (text: string) => {
  const separator = guessSeparator(text);
  return readDelimited(text, { separator, headerRow: guessHeader(text, separator) });
};

describe("delimited text", () => {
  it.each([
    ["a,b\n1,2\n3,4\n", ","],
    ["a;b\n1,5;2\n3,5;4\n", ";"],
    ["a\tb\n1\t2\n", "\t"],
    ["\ufeffa|b\n1|2\n", "|"],
    ['"x,y";b\n1;2\n', ";"],
  ])("guesses the separator of %j", (text, separator) => {
    expect(guessSeparator(text)).toBe(separator);
    expect(read(text).table.columns).toHaveLength(2);
  });

  it("knows a header from data", () => {
    expect(guessHeader("hours,age\n1,2", ",")).toBe(1);
    expect(guessHeader("1.5,2\n3,4", ",")).toBe(0);
    expect(guessHeader("A survey of cafés,,\n\nhours,age,note\n1,2,x\n", ",")).toBe(3);
  });

  it("keeps cells as they stand, quotes and line breaks included", () => {
    const { table } = read('name,note\n"A ""B""","two\nlines"\nC,\n');
    expect(table.columns.map((c) => [cell(c, 0), cell(c, 1)])).toEqual([
      ['A "B"', "C"],
      ["two\nlines", ""],
    ]);
  });

  it("mends names, empty and short rows, and says so", () => {
    const { table, notes } = read("a,a,\n1,2,3\n\n4\n");
    expect(table.columns.map((c) => c.name)).toEqual(["a", "a_2", "column_3"]);
    expect(read("a,b,,\n1,2,,\n").table.columns.map((c) => c.name)).toEqual(["a", "b"]);
    expect(notes.join(" ")).toMatch(/“a” names two columns.*empty row.*fewer cells/);
  });

  it.each([
    ["", /empty/],
    ["a,b\n", /no rows/],
    ["a,b\n1,2\n3,4,5\n", /Row 3 has 3 cells/],
    ['a,b\n1,"2\n3,4\n', /quotation mark/],
  ])("refuses %j", (text, message) =>
    expect(() => readDelimited(text, { separator: ",", headerRow: 1 })).toThrow(message),
  );

  it("reads UTF-8, UTF-16 and Latin-1, and refuses what is not text", () => {
    expect(decodeText(new TextEncoder().encode("é,b"))).toBe("é,b");
    expect(decodeText(Uint8Array.from([0xff, 0xfe, 0x61, 0, 0x62, 0]))).toBe("ab");
    expect(decodeText(Uint8Array.from([0x63, 0x61, 0x66, 0xe9]))).toBe("café");
    expect(() => decodeText(Uint8Array.from([0x50, 0x4b, 3, 4]))).toThrow(/zip archive/);
    expect(() => decodeText(Uint8Array.from([1, 2, 0, 3]))).toThrow(FormatProblem);
  });

  it("returns every table it is given", () => {
    const text = fc
      .string({ unit: "grapheme", maxLength: 8 })
      .filter((t) => !/\r/.test(t) && t === t.trim());
    fc.assert(
      fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 12 }), (rows) => {
        fc.pre(rows.every((r) => r.some((t) => t !== "")));
        const quote = (t: string): string => `"${t.replace(/"/g, '""')}"`;
        const csv = ["a,b", ...rows.map((r) => r.map(quote).join(","))].join("\n");
        const { table } = readDelimited(csv, { separator: ",", headerRow: 1 });
        expect(rows.map((_, i) => table.columns.map((c) => cell(c, i)))).toEqual(
          rows.map((r) => [...r]),
        );
      }),
    );
  });
});

describe("the study file", () => {
  it("gives the same study back", () => {
    const demo = demoStudy();
    demo.definition.report = {
      ...DEFAULT_REPORT,
      decimal: ",",
      parts: DEFAULT_REPORT.parts.slice().reverse(),
    };
    demo.definition.registered = registrationOf(demo.definition, "2026-05-04T10:00:00.000Z");
    const back = readStudy(writeStudy(demo));
    expect(back.definition).toEqual(demo.definition);
    demo.table.columns.forEach((column, j) => {
      for (let i = 0; i < demo.table.rows; i++)
        expect(cell(back.table.columns[j]!, i)).toBe(cell(column, i));
    });
  });

  it("keeps any cells and any text", () => {
    const cells = fc.array(
      fc.oneof(
        fc.string(),
        fc.double().map(String),
        fc.constantFrom("", "01", "1.50", "1e5", "NaN", "-0", "null", "true"),
      ),
      { minLength: 1, maxLength: 10 },
    );
    fc.assert(
      fc.property(
        cells,
        fc.string(),
        fc.array(
          fc.string().filter((t) => !/[\n\r]/.test(t)),
          { maxLength: 4 },
        ),
        (column, title, theory) => {
          const builder = new TableBuilder(["x"]);
          for (const text of column) builder.add([text]);
          const definition = {
            ...newDefinition(title, [{ name: "x", level: "continuous" as const }]),
            theory: theory.join("\n"),
            settings: { ...DEFAULT_SETTINGS },
          };
          const back = readStudy(writeStudy({ definition, table: builder.build() }));
          expect(column.map((_, i) => cell(back.table.columns[0]!, i))).toEqual(column);
          expect(back.definition.theory).toBe(definition.theory);
          expect(back.definition.title).toBe(title);
        },
      ),
    );
  });

  it("reads probes by name, as percentages with or without a space, and as numbers; nothing else", () => {
    const study = (probes: unknown): string =>
      JSON.stringify({
        format: "hebel-study",
        version: 1,
        data: { text: "x,w,y\n1,2,3\n2,3,1" },
        settings: { probes: { w: probes } },
      });
    const given = ["mean_sd", "quartiles", "tenths", "percentile", "20 %", "2.5%", 3];
    expect(readStudy(study(given)).definition.settings.probes.w).toEqual([
      "mean_sd",
      "quartiles",
      "tenths",
      "percentile",
      "20 %",
      "2.5 %",
      3,
    ]);
    for (const bad of ["twenty", "% 20", "median", true])
      expect(() => readStudy(study([bad]))).toThrow(/settings\.probes\.w/);
  });

  it("can be written by hand with defaults", () => {
    const { definition } = readStudy(
      '{"format":"hebel-study","version":1,"data":{"text":"a,b\\n1,2\\n2,3"},"theory":["a raises b"]}',
    );
    expect(definition.settings).toEqual(DEFAULT_SETTINGS);
    expect(definition.theory).toBe("a raises b");
  });

  it.each([
    ["{", /not readable JSON/],
    ['{"format":"other"}', /not a Hebel study/],
    ['{"format":"hebel-study","version":9,"data":{"text":"a"}}', /newer version/],
    ['{"format":"hebel-study","version":1}', /“data” is missing/],
    [
      '{"format":"hebel-study","version":1,"data":{"text":"a\\n1"},"settings":{"levle":0.9}}',
      /settings/,
    ],
    ['{"format":"hebel-study","version":1,"data":{"csv":"x.csv"}}', /browser cannot open/],
    [
      '{"format":"hebel-study","version":1,"data":{"columns":{"a":[1],"b":[1,2]}}}',
      /“b” has 2 cells/,
    ],
    ['{"format":"hebel-study","version":1,"data":{"text":"a\\n1"},"variables":{"z":{}}}', /“z”/],
  ])("refuses %s", (text, message) => expect(() => readStudy(text)).toThrow(message));

  it("keeps the name that the data use for a variable beside its own", () => {
    const file = {
      format: "hebel-study",
      version: 1,
      data: { columns: { Q1: [1, 2, 3], hours: [4, 5, 6] } },
      variables: { hours: { column: "Q1", label: "a week" } },
    };
    const { definition, table } = readStudy(JSON.stringify(file));
    expect(definition.variables.map(({ name, column, label }) => [name, column, label])).toEqual([
      ["hours", "Q1", "a week"],
      ["hours_2", "hours", undefined],
    ]);
    expect(readStudy(writeStudy({ definition, table }))).toEqual({ definition, table });
    const twice = { ...file, variables: { a: { column: "Q1" }, b: { column: "Q1" } } };
    expect(() => readStudy(JSON.stringify(twice))).toThrow(
      "Two variables stand for the column “Q1”",
    );
    const gone = { ...file, variables: { a: { column: "Q9" } } };
    expect(() => readStudy(JSON.stringify(gone))).toThrow("“Q9” that its data do not have");
  });

  it("holds no number or list that would keep a reader busy without end", () => {
    const file = JSON.parse(writeStudy(demoStudy()));
    const refused = (change: object): string => {
      try {
        readStudy(JSON.stringify({ ...file, ...change }));
      } catch (error) {
        return String(error);
      }
      return "read";
    };
    expect(refused({ settings: { monteCarloDraws: 1e9 } })).toMatch(
      /“settings.monteCarloDraws” should be at most 1000000/,
    );
    const matrix = { names: ["a", "b"], n: 1e8, correlation: [[1], [0.5, 1]] };
    expect(refused({ data: { moments: matrix }, variables: {} })).toMatch(/n” should be at most/);
    const sentences = Array.from({ length: 100_001 }, () => "H: a raises b");
    expect(refused({ theory: sentences })).toMatch(
      /“theory” should be text or at most 100000 entries, but it is a list of 100001/,
    );
    const guess = { difference: 1, effect: 1 };
    expect(refused({ settings: { leftOut: Array(1001).fill(guess) } })).toMatch(
      /“settings.leftOut” should be at most 1000 entries, but it is a list of 1001/,
    );
  });

  it("has the schema that is published", () => {
    expect(
      JSON.parse(readFileSync(new URL("../docs/study.schema.json", import.meta.url), "utf8")),
    ).toEqual(JSON.parse(JSON.stringify(studyJsonSchema())));
  });
});

it("spreadsheet formulas are neutralised, numbers are not touched", () => {
  expect(["=1+1", "+cmd", "-2.5", "@x", "-abc", "1e-5", "a=b"].map(neutralise)).toEqual([
    "'=1+1",
    "'+cmd",
    "-2.5",
    "'@x",
    "'-abc",
    "1e-5",
    "a=b",
  ]);
});

const variables: Variable[] = [
  { name: "hours", level: "continuous", unit: "a week" },
  {
    name: "mood",
    level: "ordinal",
    missing: ["9", "-1"],
    range: [1, 5],
    labels: { "1": "bad", "5": "good" },
  },
];

describe("the codebook", () => {
  it("read back says the same", () => {
    const {
      variables: back,
      changed,
      notes,
    } = applyCodebook(
      codebookCsv(variables),
      variables.map(({ name }) => ({ name, level: "continuous" })),
    );
    expect(back).toEqual(variables);
    expect([changed, notes]).toEqual([2, []]);
  });
  it("takes columns in any order and of other names, and says what it could not use", () => {
    const { variables: back, notes } = applyCodebook(
      "description;name;type\nHours at the café;hours;huge\nx;age;\n",
      variables,
    );
    expect(back[0]).toEqual({ ...variables[0], label: "Hours at the café" });
    expect(notes.join(" ")).toMatch(/“huge” is no level.*no column “age”/);
  });
  it("needs to know which column names the variables", () => {
    expect(() => applyCodebook("a,b\n1,2\n", variables)).toThrow(/needs a column “variable”/);
  });
});

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
const tableOf = (text: string) => {
  const opened = openData(bytesOf(text));
  if (opened.kind !== "data") throw new Error("a study");
  return readData(opened.source, opened.layout);
};

describe("JSON records", () => {
  it("become a table, gaps included", () => {
    const { table, notes } = tableOf('[{"x":1,"g":"a"},{"x":null,"y":true},{"x":2.5}]');
    expect(table.columns.map((c) => [c.name, cell(c, 0), cell(c, 1), cell(c, 2)])).toEqual([
      ["x", "1", "", "2.5"],
      ["g", "a", "", ""],
      ["y", "", "true", ""],
    ]);
    expect(notes[0]).toMatch(/3 records lack/);
    expect(tableOf('[["x","y"],[1,2]]').table.columns[1]!.name).toBe("y");
  });
  it.each([
    ["[]", /no records/],
    ["[1, 2]", /Entry 1 of this JSON is 1/],
    ['[{"a":1},3]', /Entry 2/],
    ["[{]", /not readable JSON/],
  ])("%s is refused", (text, message) => expect(() => tableOf(text)).toThrow(message));
});

describe("a matrix instead of people", () => {
  const printed = "name,x,m,y\nx,1,,\nm,.5,1,\ny,.3,.6,1\nsd,2,3,4\nmean,10,20,30\nn,100,,\n";
  it("is known by its row names, and gives the regression its correlations imply", () => {
    const table = matrixOf(tableOf(printed).table)!;
    expect(table.moments).toMatchObject({ n: 100, means: [10, 20, 30], standardised: false });
    const study = {
      ...newDefinition(
        "",
        table.columns.map(({ name }) => ({ name, level: "continuous" as const })),
      ),
      theory: "x raises y through m",
    };
    const evidence = analyse(study, table);
    const y = equationsOf(evidence).find((e) => e.outcome === "y")!;
    // b = R^-1 r in standard deviations: (.3 - .5 * .6) / .75 = 0 and (.6 - .5 * .3) / .75 = .6.
    expect(y.coefficients.find((c) => c.term === "x")!.beta).toBeCloseTo(0, 10);
    expect(y.coefficients.find((c) => c.term === "m")!.beta).toBeCloseTo(0.6, 10);
    expect(y.r2).toBeCloseTo(0.36, 10);
    expect(y.coefficients.find((c) => c.term === "m")!.b).toBeCloseTo((0.6 * 4) / 3, 10);
    expect(y.coefficients.find((c) => c.term === "m")!.errors.HC3).toBeNull();
    expect(evidence.bootstrap).toBeNull();
    expect(evidence.warnings[0]!.code).toBe("moments_only");
    expect(evidence.hypotheses[0]!.verdict).toBe("supported");
  });
  it("goes into the study file and back", () => {
    const table = matrixOf(tableOf(printed).table)!;
    const definition = newDefinition(
      "m",
      table.columns.map(({ name }) => ({ name, level: "continuous" as const })),
    );
    const back = readStudy(writeStudy({ definition, table }));
    expect(back.table.moments).toEqual(table.moments);
    expect(back.definition).toEqual(definition);
  });
  it.each([
    ["name,x,y\nx,1,\ny,1.2,1\nn,50,\n", /beyond 1/],
    ["name,x,y\nx,4,\ny,2,1\nn,50,\n", /not positive definite/],
    ["name,x,y\nx,1,.3\ny,.2,1\nsd,1,1\n", /needs a row “n”/],
    ["name,x,y\nx,1,\ny,.2,1\nn,3,\n", /at least 4 rows/],
  ])("refuses %j", (text, message) => expect(() => matrixOf(tableOf(text).table)).toThrow(message));
  it("an ordinary table is none", () =>
    expect(matrixOf(tableOf("id,x,y\na,1,2\nb,2,3\n").table)).toBeNull());
});

describe("delimited text of spreadsheets", () => {
  it("keeps a row of empty cells between people, and leaves blank lines and empty rows at the end out", () => {
    const { table, notes } = tableOf("a,b\n1,2\n,\n\n3,4\n,\n,\n");
    expect(table.rows).toBe(3);
    expect(table.columns.map((c) => cell(c, 1))).toEqual(["", ""]);
    expect(notes.join(" ")).toMatch(/1 empty row was left out/);
  });
});
