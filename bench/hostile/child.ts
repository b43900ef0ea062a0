import { readFile } from "./reading";
import type { Cells } from "./tables";

process.on("message", ({ bytes, cells }: { bytes: Uint8Array; cells: Cells | null }) => {
  const started = performance.now();
  const outcome = readFile(bytes, cells);
  process.send!({
    ...outcome,
    milliseconds: performance.now() - started,
    megabytes: process.resourceUsage().maxRSS / 1024,
  });
});
process.send!("ready");
