import type { Engine } from "../engine";
import { StructureKernel, type StructureProblem } from "./kernel";
import { StructureFit } from "./structure-fit";
import { UNSUITED } from "./wording";

/**
 * Covariance-structure models: paths among latent variables, measured by their items, and observed ones, by normal-theory maximum
 * likelihood at complete cases.
 */
export const covarianceStructure: Engine<StructureProblem> = {
  id: "covariance_structure",
  label: "maximum likelihood",
  options: [],
  forms: ["reflects"],
  settings: (settings) => ({ ...settings, errors: "classical" }),
  suits: (theory, { typed, variables, clusters, momentsOnly, measures }) => {
    const no = (reason: string) => ({ suits: false, reason }) as const;
    if (momentsOnly) return no(UNSUITED.moments);
    if (clusters) return no(UNSUITED.clusters);
    if (theory.moderated.length > 0 || theory.equations.some((e) => e.products.length > 0))
      return no(UNSUITED.products);
    const items = new Set(measures.flatMap((m) => m.items.map((item) => item.ref.name)));
    const grouped = [...typed.keys()].find(
      (name) => !items.has(name) && variables.get(name)?.level === "categorical",
    );
    return grouped === undefined ? { suits: true } : no(UNSUITED.categorical(grouped));
  },
  fit: (theory, data) => new StructureFit(theory, data),
  kernel: (problem) => new StructureKernel(problem),
};
