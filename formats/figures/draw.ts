import { plain, type Evidence, type FigureBlock } from "../../core";
import { pathFigure } from "./path-figure";
import { forestFigure, indirectFigure, regionFigure, slopesFigure } from "./plots";
import { surfaceFigure } from "./surface";
import type { DrawnFigure, FigureStyle } from "./svg";

/** A figure of a report; null where the evidence no longer holds what it shows. */
export function drawFigure(
  { figure, title }: Pick<FigureBlock, "figure" | "title">,
  evidence: Evidence,
  style: FigureStyle,
): DrawnFigure | null {
  switch (figure.kind) {
    case "path":
      return pathFigure(evidence, { items: false, ...figure }, title, style);
    case "slopes": {
      const own = evidence.moderations.find((m) => m.id === figure.moderation);
      return own ? slopesFigure(own, title, style) : null;
    }
    case "region": {
      const own = evidence.moderations.find((m) => m.id === figure.moderation);
      return own ? regionFigure(own, figure.set, evidence, title, style) : null;
    }
    case "surface": {
      const own = evidence.moderations.find((m) => m.id === figure.moderation);
      return own ? surfaceFigure(own, evidence, title, style) : null;
    }
    case "indirect": {
      const own = evidence.regions.find((r) => r.id === figure.region);
      return own ? indirectFigure(own, evidence, title, style) : null;
    }
    case "forest": {
      const comma = style.decimal === ",";
      const write = (value: number | null): string =>
        comma ? plain(value, 2).replace(".", ",") : plain(value, 2);
      const effects = figure.effects.flatMap(
        (id) => evidence.effects.find((e) => e.id === id) ?? [],
      );
      return forestFigure(
        effects,
        (e) =>
          `${write(e.estimate)} [${write(e.shown!.lower)}${comma ? ";" : ","} ${write(e.shown!.upper)}]`,
        title,
        style,
      );
    }
  }
}
