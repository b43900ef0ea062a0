import { SaxesParser } from "saxes";
import { FormatProblem } from "../problem";

/** What a reader wants to know of a document; names come without their prefix. */
export interface MarkupHandler {
  open: (name: string, attributes: Record<string, string>) => void;
  close: (name: string) => void;
  text: (text: string) => void;
}

const local = (name: string): string => name.slice(name.indexOf(":") + 1);

/**
 * A reader for markup that arrives in pieces. Entities that a document defines itself are refused by the parser, so
 * nothing is fetched and nothing expands.
 */
export function markupReader(handler: MarkupHandler): (text: string) => void {
  const parser = new SaxesParser({ xmlns: false });
  parser.on("opentag", ({ name, attributes }) => {
    const plain: Record<string, string> = {};
    for (const key in attributes) plain[local(key)] = attributes[key]!;
    handler.open(local(name), plain);
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
