import type { CompositeSection, GroupStudies } from "./types";

/**
 * What is resampled of a model: of each group where there are several, else of the whole, whose
 * name is empty.
 */
export const studiesOf = ({
  byGroup,
  exactFit,
  prediction,
  turned,
}: CompositeSection): GroupStudies[] =>
  byGroup.length > 0 ? byGroup : [{ group: "", turned, exactFit, prediction }];
