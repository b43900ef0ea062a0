import { performance } from "node:perf_hooks";
import { Analysis, DEFAULT_SETTINGS, guessVariable, newDefinition, TableBuilder, buildDataset } from "../core";
import { RandomStream } from "../core/numerics/random";
const builder = new TableBuilder(["x", "w", "m", "y", "age", "months"]);
for (let i = 0; i < 5000; i++) {
  const random = new RandomStream(12, i);
  const [x, w, age, months] = [random.normal(), random.normal(), random.normal(), random.normal()];
  const m = 0.3 * x + 0.2 * w + 0.2 * x * w + 0.1 * age + random.normal();
  builder.add([x, w, m, 0.1 * x + 0.4 * m + 0.1 * months + random.normal(), age, months].map((v) => v.toFixed(4)));
}
const table = builder.build();
const theory = "H1: w strengthens x to y through m on x to m\nadjust m, y for age, months";
const study = { ...newDefinition("bench", table.columns.map(guessVariable)), theory, settings: { ...DEFAULT_SETTINGS, replications: 10000 } };
const dataset = buildDataset(study, table);
for (let k = 0; k < 6; k++) {
  const t0 = performance.now();
  const a = Analysis.of(study, table, { dataset });
  const t1 = performance.now();
  const e = a.evidence();
  const t2 = performance.now();
  console.log("prepare", (t1 - t0).toFixed(1), "evidence", (t2 - t1).toFixed(1), e.effects.length);
}
