import type { Reference } from "../../core";

/** References as a list of CSL-JSON items, which reference managers read. */
export const cslJson = (items: readonly Reference[]): string =>
  `${JSON.stringify(
    items.map((r) => ({
      id: r.id,
      type: r.type,
      title: r.title,
      author: r.authors,
      issued: { "date-parts": [[r.year]] },
      ...(r.container ? { "container-title": r.container } : {}),
      ...(r.volume ? { volume: r.volume } : {}),
      ...(r.issue ? { issue: r.issue } : {}),
      ...(r.pages ? { page: r.pages.replace("–", "-") } : {}),
      ...(r.publisher ? { publisher: r.publisher } : {}),
    })),
    null,
    2,
  )}\n`;

/** The same as BibTeX. */
export const bibTex = (items: readonly Reference[]): string =>
  items
    .map((r) => {
      const fields = {
        author: r.authors.map((a) => `${a.family}, ${a.given}`).join(" and "),
        year: String(r.year),
        title: `{${r.title}}`,
        journal: r.container,
        volume: r.volume,
        number: r.issue,
        pages: r.pages?.replace("–", "--") ?? null,
        publisher: r.publisher,
      };
      const lines = Object.entries(fields).flatMap(([name, value]) =>
        value === null ? [] : [`  ${name} = {${value.replaceAll("&", "\\&")}}`],
      );
      return `@${r.type === "book" ? "book" : "article"}{${r.id},\n${lines.join(",\n")}\n}\n`;
    })
    .join("\n");
