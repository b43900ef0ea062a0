import { performance } from "node:perf_hooks";
import {
  analyse,
  completeChoices,
  composeReport,
  dataEvidence,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import { DEFAULT_FIGURE, drawFigure } from "../formats/figures";
import { docxReport, htmlReport } from "../formats/report";

const CONSTRUCTS = 10;
const ITEMS = 4;
const HYPOTHESES = 30;
const ROWS = 300;

/** What a report costs: a theory with thirty hypotheses among ten scales of four items each. */
export async function measureReport(): Promise<void> {
  const names = Array.from({ length: CONSTRUCTS * ITEMS }, (_, i) => `item${i + 1}`);
  const builder = new TableBuilder(names);
  for (let i = 0; i < ROWS; i++) {
    const random = new RandomStream(43, i);
    let before = 0;
    const row: string[] = [];
    for (let c = 0; c < CONSTRUCTS; c++) {
      before = 0.5 * before + random.normal();
      for (let k = 0; k < ITEMS; k++) row.push((before + random.normal()).toFixed(3));
    }
    builder.add(row);
  }
  const table = builder.build();
  const measures = Array.from(
    { length: CONSTRUCTS },
    (_, c) => `measure s${c + 1} averages ${names.slice(c * ITEMS, (c + 1) * ITEMS).join(", ")}`,
  );
  // From every scale to later ones, by one step or through the scale between.
  const sentences: string[] = [];
  for (let gap = 1; sentences.length < HYPOTHESES; gap++)
    for (let c = 1; c + gap <= CONSTRUCTS && sentences.length < HYPOTHESES; c++)
      sentences.push(
        `H${sentences.length + 1}: s${c} raises s${c + gap}${gap > 1 ? ` through s${c + 1}` : ""}`,
      );
  const definition = {
    ...newDefinition("bench", table.columns.map(guessVariable)),
    theory: [...measures, ...sentences].join("\n"),
    settings: { ...DEFAULT_SETTINGS, replications: 1000 },
  };
  const evidence = analyse(definition, table);
  const data = dataEvidence(definition, table);
  const start = performance.now();
  const report = composeReport({ evidence, data, definition }, completeChoices({}));
  const composed = performance.now();
  const pictures = new Map(
    report.blocks.flatMap((b) => {
      const drawn = b.kind === "figure" ? drawFigure(b, evidence, DEFAULT_FIGURE) : null;
      return b.kind === "figure" && drawn ? [[b.id, drawn.svg] as const] : [];
    }),
  );
  htmlReport(report, pictures);
  const page = performance.now();
  await docxReport(report);
  console.log(
    `report of ${HYPOTHESES} hypotheses (${evidence.effects.length} effects) and ${names.length} items: composed in ${(composed - start).toFixed(0)} ms, figures and page ${(page - composed).toFixed(0)} ms, Word document ${(performance.now() - page).toFixed(0)} ms`,
  );
}
