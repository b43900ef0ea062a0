import { leftOutTold, provisionalTold } from "../evidence";
import type { DataEvidence, Evidence } from "../evidence";
import type { Specification } from "../robustness";
import type { StudyDefinition } from "../study";
import type { PartId, ReportChoices } from "../study";
import { heading, type Part, type ReportContext } from "./context";
import type { Block, ReportDocument } from "./document";
import { Cells, Figures } from "./figures";
import { conditional } from "./parts/conditional";
import { descriptives } from "./parts/descriptives";
import { effects } from "./parts/effects";
import { equations } from "./parts/equations";
import { figures } from "./parts/figures";
import { fit } from "./parts/fit";
import { groups } from "./parts/groups";
import { hypotheses } from "./parts/hypotheses";
import { limits } from "./parts/limits";
import { measurement } from "./parts/measurement";
import { measures } from "./parts/measures";
import { methods } from "./parts/methods";
import { prediction } from "./parts/prediction";
import { robustness } from "./parts/robustness";
import { sample } from "./parts/sample";
import { treatment } from "./parts/treatment";
import { working } from "./parts/working";
import { Presenter } from "./present";
import { referencesOf } from "./references";

const references: Part = ({ evidence, data }) => {
  const items = referencesOf(evidence, data);
  return items.length === 0 ? [] : [heading("References"), { kind: "references", items }];
};

const MAKERS: Record<PartId, Part> = {
  sample,
  measures,
  methods,
  descriptives,
  measurement,
  fit,
  groups,
  hypotheses,
  limits,
  effects,
  conditional,
  treatment,
  equations,
  prediction,
  robustness,
  figures,
  references,
  working,
};

export interface ReportSources {
  evidence: Evidence;
  data: DataEvidence | null;
  definition: StudyDefinition;
  robustness?: readonly Specification[] | null;
}

/** Which parts have something to say. */
export function partsWithContent(sources: ReportSources, choices: ReportChoices): Set<PartId> {
  const context = contextOf(sources, choices);
  return new Set(choices.parts.map((p) => p.id).filter((id) => MAKERS[id](context).length > 0));
}

const contextOf = (
  { evidence, data, definition, robustness: tried = null }: ReportSources,
  choices: ReportChoices,
): ReportContext => {
  const write = new Figures(choices);
  return {
    evidence,
    data,
    definition,
    robustness: tried,
    style: choices,
    write,
    cell: new Cells(write),
  };
};

/**
 * The report of a study: the chosen parts in their order, tables and figures counted through,
 * numbers and words in the chosen style. Everything is read from the evidence; nothing is computed
 * here.
 */
export function composeReport(sources: ReportSources, choices: ReportChoices): ReportDocument {
  const context = contextOf(sources, choices);
  const presenter = new Presenter(choices, namesOf(sources));
  const blocks = choices.parts
    .filter((p) => p.shown)
    .flatMap(({ id }) => MAKERS[id](context))
    .map((block) => presenter.block(block));
  const { evidence, definition } = sources;
  return {
    title: evidence.title || "Untitled study",
    question: definition.question,
    leftOut: [...leftOutTold(evidence), ...provisionalTold(evidence)],
    language: choices.spelling === "british" ? "en-GB" : "en-US",
    decimal: choices.decimal,
    blocks: numbered(blocks),
  };
}

/**
 * Tables and figures counted through; what refers to one that is not there keeps its sentence
 * without a number.
 */
function numbered(blocks: readonly Block[]): Block[] {
  const count = { table: 0, figure: 0 };
  return blocks.map((block) =>
    block.kind === "table" || block.kind === "figure"
      ? { ...block, number: ++count[block.kind] }
      : block,
  );
}

/** “Table 2” for the id of a table, “Figure 1” for that of a figure. */
export function captionNames(blocks: readonly Block[]): Map<string, string> {
  const names = new Map<string, string>();
  for (const b of blocks)
    if (b.kind === "table" || b.kind === "figure")
      names.set(b.id, `${b.kind === "table" ? "Table" : "Figure"} ${b.number}`);
  return names;
}

/** Names that people gave: of variables, their labels and levels, filters and the study itself. */
function namesOf({ definition, evidence }: ReportSources): string[] {
  return [
    definition.title,
    evidence.engine,
    ...definition.variables.flatMap((v) => [
      v.name,
      v.label ?? "",
      v.unit ?? "",
      ...(v.levels ?? []),
      ...Object.values(v.labels ?? {}),
    ]),
    ...definition.derived.map((d) => d.name),
    ...definition.filters.map((f) => f.name),
    ...evidence.latent.map((l) => l.name),
    ...Object.keys(evidence.descriptives),
  ].filter((name) => name.length > 1);
}
