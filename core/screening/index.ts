export { describe, median, type Description } from "./describe";
export { robustOutliers, type RobustOutliers } from "./outliers";
export { mahalanobis, type DistantRow, type MahalanobisResult } from "./mahalanobis";
export { mardia, type MardiaResult } from "./mardia";
export {
  correlations,
  type CorrelationCell,
  type CorrelationTable,
  type CorrelationTest,
} from "./correlations";
export { missingPatterns, type MissingPatterns } from "./patterns";
export { littleTest, type LittleResult } from "./little";
export { repeatedIdentifiers, repeatedRows, type RepeatedRows } from "./duplicates";
