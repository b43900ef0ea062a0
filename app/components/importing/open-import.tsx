import { lazy, Suspense, type ComponentProps } from "react";
import type { ImportDialog as Dialog } from "./import-dialog";

const Loaded = lazy(async () => ({ default: (await import("./import-dialog")).ImportDialog }));

/** Fetches it beforehand, once the page stands: a network that is cut later does not matter. */
export const prepareImport = (): (() => void) => {
  const timer = setTimeout(() => void import("./import-dialog").catch(() => undefined), 1000);
  return () => clearTimeout(timer);
};

/** The import, fetched when a file is opened: a shelf that is only looked at does without it. */
export function ImportDialog(props: ComponentProps<typeof Dialog>) {
  return (
    <Suspense fallback={null}>
      <Loaded {...props} />
    </Suspense>
  );
}
