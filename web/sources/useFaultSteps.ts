import { useState } from "react";
import { useKeys } from "../ui/Keys";
import type { ShownFault } from "./FaultPanel";

/** Steps through faulty cells, those that need a person first, by N and P. */
export function useFaultSteps(faults: readonly ShownFault[]) {
  const [place, setPlace] = useState<string>();
  const order = [...faults.filter(({ answer }) => answer !== "clean"), ...faults.filter(({ answer }) => answer === "clean")];
  const at = order.findIndex((fault) => placeOf(fault) === place);
  const step = (by: 1 | -1): void => {
    const next = order[at < 0 ? (by > 0 ? 0 : order.length - 1) : (at + by + order.length) % order.length];
    if (next !== undefined) setPlace(placeOf(next));
  };
  useKeys({ n: () => step(1), p: () => step(-1) });
  return { chosen: order[at], step, choose: (fault: Pick<ShownFault, "row" | "column">) => setPlace(placeOf(fault)) };
}

function placeOf({ row, column }: Pick<ShownFault, "row" | "column">): string {
  return `${row} ${column}`;
}
