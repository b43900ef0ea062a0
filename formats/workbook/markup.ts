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
  /** Where the document ended before its end, in words. */
  where?: () => string;
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
export function markupReader(handler: MarkupHandler): {
  write: (text: string) => void;
  end: () => void;
} {
  const parser = new SaxesParser({ xmlns: false, position: false });
  parser.on("opentag", ({ name, attributes }) => {
    handler.open(local(name), withoutPrefixes(attributes));
  });
  parser.on("closetag", ({ name }) => handler.close(local(name)));
  parser.on("text", handler.text);
  parser.on("cdata", handler.text);
  let ended = false;
  parser.on("error", (error) => {
    if (ended)
      throw new FormatProblem(
        `This workbook is damaged: one of its parts breaks off${handler.where ? ` ${handler.where()}` : ""}. Fetch the file again, or save it again in a spreadsheet program.`,
      );
    throw new FormatProblem(
      `This workbook is damaged: one of its parts is not well-formed (${error.message}). Save it again in a spreadsheet program.`,
    );
  });
  return {
    write: (text) => void parser.write(text),
    end: () => {
      ended = true;
      parser.close();
    },
  };
}

/** Reads a document that is there whole. */
export function readMarkup(text: string, handler: MarkupHandler): void {
  const reader = markupReader(handler);
  reader.write(text);
  reader.end();
}

/** Reads one part of an archive piece by piece, until the handler has had enough. */
export function streamMarkup(
  archive: Archive,
  part: string,
  handler: MarkupHandler,
  progress?: (share: number) => void,
): void {
  const reader = markupReader(handler);
  const whole = archive.stream(
    part,
    (chunk) => {
      reader.write(chunk);
      return handler.goesOn ?? true;
    },
    progress,
  );
  if (whole) reader.end();
}
