/** Hands a text or other content to the user as a file. */
export function download(name: string, content: string | Blob, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** A file name from a title: letters and digits of any script, the rest hyphens. */
export const fileName = (title: string, ending: string): string =>
  `${
    title
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .replace(/^-|-$/g, "") || "study"
  }${ending}`;
