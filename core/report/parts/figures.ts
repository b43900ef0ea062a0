import type { ModerationEvidence } from "../../evidence";
import { heading, type Part, type ReportContext } from "../context";
import { arrowNote } from "../path-numbers";
import type { Block, FigureBlock, FigureSpec } from "../document";

/** So many pictures of one kind; a theory with thirty hypotheses needs no thirty pictures. */
const MOST = 4;

/**
 * The path diagram, slopes of every moderated step with their regions, bands, and all effects at a
 * glance.
 */
export const figures: Part = (context) => {
  const { evidence } = context;
  const all = [
    ...(evidence.paths.length > 0 ? paths(context) : []),
    ...slopes(context),
    ...bands(context),
    ...forest(context),
  ];
  return all.length === 0 ? [] : [heading("Figures"), ...all];
};

const figure = (id: string, title: string, spec: FigureSpec, note = ""): FigureBlock => ({
  kind: "figure",
  id,
  number: 0,
  title,
  figure: spec,
  notes: note === "" ? [] : [[note]],
});

function paths(context: ReportContext): Block[] {
  const { diagram } = context.style.figures;
  return [
    ...(diagram === "statistical"
      ? []
      : [
          figure("concepts", "The conceptual model", {
            kind: "path",
            estimates: "none",
            beside: "nothing",
          }),
        ]),
    ...(diagram === "conceptual" ? [] : estimated(context)),
  ];
}

const BESIDE = { interval: " with their intervals", p: " with their p values", nothing: "" };

function estimated({ evidence, style }: ReportContext): Block[] {
  const standardised = style.units === "completely_standardised";
  const note = arrowNote(evidence);
  const shapes = [
    ...(evidence.latent.some((l) => l.form === "reflects") ? ["ellipses: latent variables"] : []),
    ...(evidence.latent.some((l) => l.form === "combines") ? ["double lines: composites"] : []),
    "rectangles: observed variables",
  ];
  return [
    figure(
      "path diagram",
      "The model with its estimates",
      {
        kind: "path",
        estimates: standardised ? "standardised" : "raw",
        beside: style.figures.beside,
      },
      `${standardised ? "Completely standardised estimates" : evidence.units === "raw" ? "Unstandardised estimates" : "Estimates"}${BESIDE[style.figures.beside]}; ${shapes.join("; ")}.${note === "" ? "" : ` ${note}`}`,
    ),
  ];
}

function slopes({ evidence, style }: ReportContext): Block[] {
  return evidence.moderations
    .filter((m) => m.path && m.lines.length > 0)
    .slice(0, MOST)
    .flatMap((m): Block[] => {
      const by = m.moderators.map((w) => w.name).join(" and ");
      const set = m.johnsonNeyman.findIndex((s) => s.tests[evidence.errors]);
      return [
        figure(
          `slopes ${m.id}`,
          `${m.outcome} by ${m.focalLabel} at values of ${by}`,
          { kind: "slopes", moderation: m.id },
          "Predicted values with other predictors at their means.",
        ),
        ...(set >= 0
          ? [
              figure(
                `region ${m.id}`,
                `Slope of ${m.focalLabel} on ${m.outcome} along ${m.johnsonNeyman[set]!.over}`,
                { kind: "region", moderation: m.id, set },
                "With its pointwise confidence band; shaded where the band excludes zero (Johnson-Neyman).",
              ),
            ]
          : []),
        ...(set >= 0 && style.figures.surface && hasSurface(m)
          ? [
              figure(
                `surface ${m.id}`,
                `${m.outcome} over ${m.focalLabel} and ${m.johnsonNeyman[set]!.over}`,
                { kind: "surface", moderation: m.id },
                "Predicted values with other predictors at their means, over all observed values of the moderator; dashed where the slope begins or ceases to be told apart from zero (Johnson-Neyman).",
              ),
            ]
          : []),
      ];
    });
}

/**
 * Can a moderation be drawn as a surface? It takes one moderator of amounts, and a predictor of
 * amounts.
 */
export const hasSurface = ({ moderators, lines, focal }: ModerationEvidence): boolean =>
  moderators.length === 1 &&
  moderators[0]!.columns.length === 1 &&
  typeof lines[0]?.points[0]?.at[focal] === "number";

const bands = ({ evidence }: ReportContext): Block[] =>
  evidence.regions
    .filter((r) => r.bands !== null)
    .slice(0, MOST)
    .map((r) =>
      figure(
        `band ${r.id}`,
        `Indirect effect of ${r.from} on ${r.to} through ${r.via.join(", then ")} along ${r.over}`,
        { kind: "indirect", region: r.id },
        "With its pointwise bootstrap band.",
      ),
    );

function forest({ evidence }: ReportContext): Block[] {
  const claimed = evidence.hypotheses.flatMap((h) => h.effects);
  const shown = evidence.effects.filter((e) => claimed.includes(e.id) && e.shown?.lower != null);
  if (shown.length < 2) return [];
  return [
    figure("forest", "Estimates of the hypothesised effects with their intervals", {
      kind: "forest",
      effects: [...new Set(shown.map((e) => e.id))],
    }),
  ];
}
