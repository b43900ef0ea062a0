import { minus, percent, plain, pValue, thousands } from "../wording/numbers";
import type { Cell } from "./document";
import type { ReportStyle } from "../study";

type Number_ = number | null | undefined;

/** Decimals of correlations and their kin. */
const BOUNDED = 2;

/** Without the zero before the point: of what cannot exceed one. */
const unzeroed = (text: string): string => text.replace(/^(−?)0\./, "$1.");

/**
 * Numbers as a style writes them, with a decimal point; `Presenter` turns it into a comma where
 * that is wanted.
 */
export class Figures {
  constructor(readonly style: Pick<ReportStyle, "journal" | "digits">) {}

  /** An estimate: as many decimals as the style has, and never fewer than two digits that count. */
  number(value: Number_, digits: number = this.style.digits): string {
    return plain(value, digits);
  }

  /**
   * What cannot exceed one: correlations, reliabilities, R², indices of fit. As many decimals as
   * its kind has.
   */
  bounded(value: Number_, digits = BOUNDED): string {
    if (value == null || !Number.isFinite(value)) return "–";
    const fixed = value.toFixed(digits);
    const text = minus(Number(fixed) === 0 ? fixed.replace("-", "") : fixed);
    return this.style.journal === "behavioural" ? unzeroed(text) : text;
  }

  /**
   * A p value without its letter: exact to three places, or as medical journals have it to two
   * where that says enough.
   */
  p(value: Number_, isBound = false): string {
    if (this.style.journal === "behavioural") return pValue(value, isBound);
    const exact = pValue(value, isBound).replace(/^(< )?\./, "$10.");
    if (value === null || value === undefined || isBound || value < 0.01 || exact.startsWith("<"))
      return exact;
    // Nothing that two places would carry over a limit of significance.
    return value >= 0.045 && value < 0.055 ? exact : value.toFixed(2);
  }

  /** “p = .031”, “p < .001”. */
  pClause(value: Number_, isBound = false): string {
    const text = this.p(value, isBound);
    const letter = this.style.journal === "medical" ? "P" : "p";
    return text.startsWith("<") ? `${letter} ${text}` : `${letter} = ${text}`;
  }

  /** Both limits: “[0.10, 0.35]”, “0.10 to 0.35”. */
  limits(lower: Number_, upper: Number_, write = (v: Number_) => this.number(v)): string {
    if (lower == null && upper == null) return "–";
    if (lower == null) return `below ${write(upper)}`;
    if (upper == null) return `above ${write(lower)}`;
    return this.style.journal === "behavioural"
      ? `[${write(lower)}, ${write(upper)}]`
      : `${write(lower)} to ${write(upper)}`;
  }

  percent(share: number): string {
    return percent(share);
  }

  count(value: number): string {
    return thousands(value);
  }
}

/** Cells of a table, written by a style. */
export class Cells {
  constructor(private readonly figures: Figures) {}

  words = (text: string | null): Cell => ({ text: text ?? "", value: text });

  number = (value: Number_, digits?: number): Cell => ({
    text: value == null ? "" : this.figures.number(value, digits),
    value: value ?? null,
  });

  bounded = (value: Number_, digits?: number): Cell => ({
    text: value == null ? "" : this.figures.bounded(value, digits),
    value: value ?? null,
  });

  count = (value: Number_): Cell => ({
    text: value == null ? "" : this.figures.count(value),
    value: value ?? null,
  });

  p = (value: Number_, isBound = false): Cell => ({
    text: value == null ? "" : this.figures.p(value, isBound),
    value: value ?? null,
  });

  /** @param bounded decimals of limits that cannot exceed one; none for others */
  limits = (lower: Number_, upper: Number_, bounded?: number): Cell => {
    const none = lower == null && upper == null;
    const write =
      bounded === undefined ? undefined : (v: Number_) => this.figures.bounded(v, bounded);
    const text = none ? "" : this.figures.limits(lower, upper, write);
    return { text, value: none ? null : text, limits: [lower ?? null, upper ?? null] };
  };
}
