import { written } from "@amigo/language/message";
import * as z from "zod";
import type { CohortValue } from "../cohort";
import type { Kind } from "./kind";

/** There is a class, team or committee. The next season makes its own. */
export const cohort: Kind<"cohort", "", CohortValue> = {
  kind: "cohort",
  about: "cohort",
  value: z.object({
    name: z.string(),
    kind: z.enum(["class", "team", "committee"]),
    site: z.string(),
    coach: z.string(),
  }),
  addTo: (index, { subject, value }) => {
    index.cohorts.set(subject, value);
  },
  removeFrom: (index, { subject }) => {
    index.cohorts.delete(subject);
  },
  nextSeason: () => undefined,
  called: ({ subject }, name) => written(name(subject)),
};
