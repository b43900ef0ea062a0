import { describe, expect, it } from "vitest";
import { latentStudy } from "../../../bench/latent";
// @ts-expect-error a script without types
import { compiled } from "../../../scripts/wasm.mjs";
import { Analysis } from "../../analysis";
import { Resampler } from "../../inference";
import { StructureKernel, type StructureProblem } from "./kernel";
import { REFIT_WASM } from "./wasm/refit.wasm";

describe("refits in WebAssembly", () => {
  const { study, table } = latentStudy(150, { replications: 100 }, { loading: 0.6 });
  const { resampling } = Analysis.of(study, table).prepared;
  const problem = resampling.kernel.data as StructureProblem;

  it("are those of the script, replicate by replicate", () => {
    const made = [false, true].map((scripted) =>
      new Resampler(new StructureKernel(problem, scripted), resampling).replicates(0, 100),
    );
    const [fast, plain] = made as [(typeof made)[0], (typeof made)[0]];
    expect(fast.values.length).toBeGreaterThan(500);
    fast.values.forEach((value, at) => expect(value).toBeCloseTo(plain.values[at]!, 6));
  });

  it("come from bytes that are compiled from the source beside them", () => {
    expect(compiled("core/estimators/covariance-structure/wasm/refit")).toBe(REFIT_WASM);
  });
});
