import type { ReactNode } from "react";
import { useNarrow } from "./useNarrow";

/** A table that on a narrow screen scrolls sideways in its own frame, with its first column kept in sight. */
export function WideTable({
  label,
  className = "w-full",
  children,
}: {
  /** What it holds, for those who come to its frame by keys. */
  label: string;
  className?: string;
  children: ReactNode;
}) {
  const narrow = useNarrow();
  const frame = narrow ? { role: "region", "aria-label": label, tabIndex: 0 } : {};
  return (
    <div {...frame} className="max-md:overflow-x-auto focus-visible:-outline-offset-2">
      <table className={`wide-table ${className}`}>{children}</table>
    </div>
  );
}
