export { filesOf, looksLikePack, readPack, type Pack } from "./read-pack";
export { verify, type Difference, type Verification } from "./verify";
export { compareFiles, type FileComparison } from "./verify-files";
export { writePack, type PackExtras } from "./write-pack";
