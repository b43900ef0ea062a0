/** Text as it stands between and within tags of HTML and SVG. */
export const escapedMarkup = (text: string): string =>
  text.replace(
    /[&<>"]/g,
    (mark) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[mark]!,
  );
