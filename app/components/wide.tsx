import type { ReactNode } from "react";

/** A frame around a table that may be wider than its place; it can be reached and scrolled by keyboard. */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <div className="map-frame" tabIndex={0} role="region" aria-label={label}>
      {children}
    </div>
  );
}
