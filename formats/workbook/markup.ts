import { SaxesParser } from "saxes";
import { FormatProblem } from "../problem";
import type { Archive } from "./archive";

/** What a reader wants to know of a document; names come without their prefix. */
export interface MarkupHandler {
  open: (name: string, attributes: Record<string, string>) => void;
  close: (name: string) => void;
  text: (text: string) => void;
  /** False when the rest need not be read. */
  goesOn?: boolean;
}

const local = (name: string): string => name.slice(name.indexOf(":") + 1);

/**
 * Cells have attributes without prefixes, and there are millions of them: they are passed on as
 * they are.
 */
function withoutPrefixes(attributes: Record<string, string>): Record<string, string> {
  let prefixed = false;
  for (const key in attributes) prefixed ||= key.includes(":");
  return prefixed
    ? Object.fromEntries(Object.entries(attributes).map(([key, value]) => [local(key), value]))
    : attributes;
}

/**
 * A reader for markup that arrives in pieces. Entities that a document defines itself are refused
 * by the parser, so nothing is fetched and nothing expands.
 */
export function markupReader(handler: MarkupHandler): (text: string) => void {
  const parser = new SaxesParser({ xmlns: false, position: false });
  parser.on("opentag", ({ name, attributes }) => {
    handler.open(local(name), withoutPrefixes(attributes));
  });
  parser.on("closetag", ({ name }) => handler.close(local(name)));
  parser.on("text", handler.text);
  parser.on("cdata", handler.text);
  parser.on("error", (error) => {
    throw new FormatProblem(
      `This workbook is damaged: one of its parts is not well-formed (${error.message}). Save it again in a spreadsheet program.`,
    );
  });
  return (text) => void parser.write(text);
}

/** Reads one part of an archive piece by piece, until the handler has had enough. */
export function streamMarkup(
  archive: Archive,
  part: string,
  handler: MarkupHandler,
  progress?: (share: number) => void,
): void {
  const read = markupReader(handler);
  archive.stream(
    part,
    (chunk) => {
      read(chunk);
      return handler.goesOn ?? true;
    },
    progress,
  );
}
