// Lists what is shipped with the app: every package that is no tool of development, with its
// licence, from the lock file.
import { existsSync, readFileSync } from "node:fs";

/** @returns name, version and licence of each package, by name */
export function shippedPackages() {
  const { packages } = JSON.parse(readFileSync("package-lock.json", "utf8"));
  const shipped = new Map();
  for (const [path, entry] of Object.entries(packages)) {
    if (path === "" || entry.dev || entry.optional || !existsSync(path)) continue;
    const name = path.slice(path.lastIndexOf("node_modules/") + "node_modules/".length);
    const { license, licenses } = JSON.parse(readFileSync(`${path}/package.json`, "utf8"));
    const said = license ?? licenses?.[0] ?? entry.license ?? "see the package";
    const licence = typeof said === "string" ? said : (said.type ?? "see the package");
    shipped.set(`${name} ${entry.version}`, { name, version: entry.version, licence });
  }
  return [...shipped.values()].sort((a, b) => a.name.localeCompare(b.name, "en"));
}

const NAME = "virtual:licences";

/** The list as a module of the build. */
export const licencesPlugin = () => ({
  name: "licences",
  resolveId: (id) => (id === NAME ? `\0${NAME}` : undefined),
  load: (id) =>
    id === `\0${NAME}` ? `export default ${JSON.stringify(shippedPackages())};` : undefined,
});
