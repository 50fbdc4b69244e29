import { useState } from "react";
import { useKeys } from "../ui/Keys";
import type { ShownFault } from "./shownFault";

/** Steps through faulty cells, those that need a person first, by N and P. */
export function useFaultSteps(faults: readonly ShownFault[]) {
  const [place, setPlace] = useState<string>();
  const order = [
    ...faults.filter(needsSomebody),
    ...faults.filter((fault) => !needsSomebody(fault)),
  ];
  const at = order.findIndex((fault) => placeOf(fault) === place);
  const step = (by: 1 | -1): void => {
    const next =
      order[at < 0 ? (by > 0 ? 0 : order.length - 1) : (at + by + order.length) % order.length];
    if (next !== undefined) setPlace(placeOf(next));
  };
  useKeys({ n: () => step(1), p: () => step(-1) });
  return {
    chosen: order[at],
    step,
    choose: (fault: Pick<ShownFault, "sheet" | "row" | "column">) => setPlace(placeOf(fault)),
  };
}

/** Whether a fault still waits for a person: it was neither mended by reading nor put right by a correction. */
export function needsSomebody({
  answer,
  correction,
}: Pick<ShownFault, "answer" | "correction">): boolean {
  return answer !== "clean" && correction == null;
}

/** Counts the faults of a sheet itself, and apart from them the cells with an address from which mail comes back. */
export function countFaults(
  faults: readonly Pick<ShownFault, "answer" | "correction" | "fault">[],
): { faults: number; toDecide: number; fixed: number; bouncing: number } {
  const foundFaults = faults.filter(({ fault }) => fault !== "failing");
  const toDecide = foundFaults.filter(needsSomebody).length;
  return {
    faults: foundFaults.length,
    toDecide,
    fixed: foundFaults.length - toDecide,
    bouncing: faults.length - foundFaults.length,
  };
}

function placeOf({ sheet, row, column }: Pick<ShownFault, "sheet" | "row" | "column">): string {
  return `${sheet} ${row} ${column}`;
}
