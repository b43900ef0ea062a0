import type { ClaimTest } from "./types";

/** A claim whose interval, 0.1 to 0.3, lies above zero as stated; tests only. */
export const claim = (patch: Partial<ClaimTest>): ClaimTest => ({
  estimate: 0.2,
  nullValue: 0,
  direction: 1,
  tail: "two",
  joint: null,
  method: "bca",
  reference: "bootstrap",
  df: null,
  se: 0.1,
  lower: 0.1,
  upper: 0.3,
  p: 0.01,
  pIsBound: false,
  level: 0.95,
  provisional: false,
  mcseLower: 0,
  mcseUpper: 0,
  beyondLower: 25,
  beyondUpper: 25,
  ...patch,
});
