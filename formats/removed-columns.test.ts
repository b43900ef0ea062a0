import { describe, expect, it } from "vitest";
import {
  StudyProblem,
  Analysis,
  completeChoices,
  composeReport,
  dataEvidence,
  type Evidence,
} from "../core";
import { DEMO_STUDIES } from "../demo";
import type { LoadedStudy } from ".";
import { effectsCsv } from "./effects-table";
import { htmlReport, latexTables, markdownReport } from "./report";

/** A study as it is when a newer file has not this column any more. */
function without({ definition, table }: LoadedStudy, name: string): LoadedStudy {
  const columns = table.columns.filter((c) => c.name !== name);
  return {
    table: { ...table, columns },
    definition: {
      ...definition,
      variables: definition.variables.filter((v) => v.name !== name),
      settings: { ...definition.settings, replications: 60 },
    },
  };
}

const named = (name: string): RegExp =>
  new RegExp(`(?<![\\p{L}\\p{N}_])${name}(?![\\p{L}\\p{N}_])`, "u");

/** What stands in every file that is made of a study. */
function filesOf({ definition, table }: LoadedStudy, evidence: Evidence): Record<string, string> {
  const data = dataEvidence(definition, table);
  const report = composeReport({ evidence, data, definition }, completeChoices({}));
  const plain = (text: string): string => text.replace(/\\(?=[\W_])/g, "");
  return {
    html: htmlReport(report, new Map()),
    markdown: plain(markdownReport(report)),
    latex: plain(latexTables(report)),
    effects: effectsCsv(evidence),
  };
}

const STUDIES = Object.entries(DEMO_STUDIES).filter(([about]) => about !== "planning");

describe.each(STUDIES)("the demo study on %s", (_, make) => {
  const study = make();
  const used = study.table.columns
    .map((c) => c.name)
    .filter((name) => named(name).test(study.definition.theory));

  it.each(used)("says what falls away without %s", (name) => {
    const left = without(study, name);
    let evidence: Evidence;
    try {
      evidence = Analysis.of(left.definition, left.table, { tolerant: true }).complete().evidence();
    } catch (error) {
      // A refusal is no silence, as long as it says of what.
      expect(error).toBeInstanceOf(StudyProblem);
      expect((error as Error).message).toMatch(named(name));
      return;
    }
    for (const [file, text] of Object.entries(filesOf(left, evidence)))
      expect(text, file).toMatch(named(name));
    const told = evidence.warnings.filter((w) => w.code === "sentence_left_out");
    expect(told.map((w) => w.message).join(" ")).toMatch(named(name));
  });
});
