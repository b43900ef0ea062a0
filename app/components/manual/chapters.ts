/** One chapter of the manual; its text is the file in docs/manual that GitHub shows, too. */
export interface Chapter {
  /** As addresses name it. */
  id: string;
  title: string;
  text: string;
}

const files = import.meta.glob<string>("../../../docs/manual/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});

/** The manual in the order of its files. */
export const CHAPTERS: readonly Chapter[] = Object.entries(files)
  .sort(([a], [b]) => a.localeCompare(b, "en", { numeric: true }))
  .map(([path, text]) => ({
    id: path.replace(/^.*\/\d+-/, "").replace(/\.md$/, ""),
    title: /^# (.+)$/m.exec(text)?.[1] ?? path,
    text,
  }));
