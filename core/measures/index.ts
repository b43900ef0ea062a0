export {
  averageVarianceExtracted,
  compositeReliability,
  correlationMatrix,
  reliability,
  type ItemStatistics,
  type Omega,
  type Reliability,
} from "./reliability";
export {
  extractFactors,
  invert,
  mostFactors,
  product,
  type Extracted,
  type Extraction,
  type FactorFit,
} from "./common-factors";
export { rootsOf } from "./eigen";
export { oneFactor, type OneFactor } from "./one-factor";
export { DEFAULT_ANSWERED, reversed, scaleScores, type ScoreRule } from "./scores";
export { straightLining, type StraightLining } from "./straight-lining";
export { answeredAlike, itemFamilies, type AnswerBattery, type ItemFamily } from "./families";
export { heterotraitRatios, type HeterotraitRatio, type ItemBlock } from "./discriminant";
