import type {
  CoefficientEvidence,
  EquationEvidence,
  EquationsSection,
  Section,
} from "../estimators";
import type { Evidence } from "./types";

const isEquations = (section: Section): section is EquationsSection => section.kind === "equations";

/** The regression equations of an analysis; none where its engine has no such section. */
export const equationsOf = ({ sections }: Pick<Evidence, "sections">): EquationEvidence[] =>
  sections.filter(isEquations).flatMap((section) => section.equations);

/** Joint tests of categorical predictors' total effects, where the engine has them. */
export const totalOmnibusOf = ({
  sections,
}: Pick<Evidence, "sections">): EquationsSection["totalOmnibus"] =>
  sections.filter(isEquations).flatMap((section) => section.totalOmnibus);

/** The variables and products among coefficients, each once however many code columns it has. */
export const variablesOf = (coefficients: readonly CoefficientEvidence[]): string[] => [
  ...new Set(
    coefficients.flatMap(
      (c) => c.components?.map((part) => part.variable).join(" × ") ?? c.variable ?? [],
    ),
  ),
];
