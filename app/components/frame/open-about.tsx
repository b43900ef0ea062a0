import { lazy, Suspense } from "react";

const Loaded = lazy(async () => ({ default: (await import("./about-dialog")).AboutDialog }));

/** The list of packages is long, so it is fetched when it is asked for. */
export function AboutDialog({ close }: { close: () => void }) {
  return (
    <Suspense fallback={null}>
      <Loaded close={close} />
    </Suspense>
  );
}
