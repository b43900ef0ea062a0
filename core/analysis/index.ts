export { analyse } from "./analyse";
export { Analysis, type Progress } from "./analysis";
