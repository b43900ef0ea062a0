import type { ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";

/** The markup of an element without the style sheets that come with it; for tests. */
export const markupOf = (element: ReactElement): string =>
  renderToStaticMarkup(element).replace(/<style[^>]*>.*?<\/style>/gs, "");

/** What a reader gets of markup: its text, tags as spaces. */
export const textOf = (markup: string): string =>
  markup
    .replace(/<[^>]+>/g, " ")
    .replace(/&#x27;/g, "'")
    .replace(/&quot;/g, '"')
    .replace(/&gt;/g, ">")
    .replace(/&lt;/g, "<")
    .replace(/&amp;/g, "&")
    .replace(/\s+/g, " ");
