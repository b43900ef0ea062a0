/**
 * How the weights of a construct are found: by correlation (mode A), by regression (mode B), all
 * equal, or no choice at all.
 */
export type WeightMode = "correlation" | "regression" | "equal" | "single";

/** How constructs that are joined by a path draw on each other while weights are found. */
export const SCHEMES = ["path", "factor", "centroid"] as const;
export type Scheme = (typeof SCHEMES)[number];

/** How the product of two constructs is made. */
export const APPROACHES = ["two_stage", "centred", "standardised", "raw", "orthogonal"] as const;
export type Approach = (typeof APPROACHES)[number];

/** A variable of a path model, made of its indicators. */
export interface Construct {
  name: string;
  mode: WeightMode;
  indicators: string[];
  /**
   * A common factor whose correlations are corrected for its reliability; false for a composite.
   */
  corrected: boolean;
  /** Of a single item, where it is known; else null. */
  reliability: number | null;
  /** The indicator whose loading is positive, whatever the others are; null for the majority. */
  dominant: string | null;
}

/** The product of two constructs, and whom it explains. */
export interface Product {
  of: [string, string];
  to: string;
}

/** Constructs, directed paths and products. */
export interface CompositeModel {
  constructs: Construct[];
  paths: [string, string][];
  products: Product[];
  scheme: Scheme;
  approach: Approach;
  /** Correct the correlations of common factors for reliability (consistent estimation). */
  consistent: boolean;
}

/** A tolerance 1 - R² below this is none: the variable is made of the others. */
export const SINGULAR = 1e-8;

export const productName = ([x, w]: readonly [string, string]): string => `${x} x ${w}`;
