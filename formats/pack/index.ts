export { looksLikePack, readPack, type Pack } from "./read-pack";
export { verify, type Difference, type Verification } from "./verify";
export { writePack, type PackExtras } from "./write-pack";
