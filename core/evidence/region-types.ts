export interface Band {
  lower: (number | null)[];
  upper: (number | null)[];
  /** Zero crossings of the two limits, interpolated between neighbouring values, ascending. */
  boundaries: number[];
}

/** A conditional indirect effect along one moderator with pointwise bootstrap bands. */
export interface RegionEvidence {
  id: string;
  label: string;
  from: string;
  via: string[];
  to: string;
  over: string;
  grid: number[];
  estimate: number[];
  /** Null before there are resamples. */
  bands: Record<"percentile" | "bc" | "bca", Band> | null;
  /** Share of the rows, in per cent, where the shown band excludes zero; by band. */
  percentSignificant: Record<"percentile" | "bc" | "bca", number> | null;
}
