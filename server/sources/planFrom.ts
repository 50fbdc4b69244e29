import type { z } from "zod";
import { type Plan } from "@amigo/contract/sources";
import type { ReadingPlan } from "@amigo/core/sheet/table";

export function planFrom({ others, ...rest }: z.output<typeof Plan>): ReadingPlan {
  return { ...rest, ...(others === undefined ? {} : { others }) };
}
