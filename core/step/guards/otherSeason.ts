import { each, message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** The sheet names another season than the current one. The count to type is the year in which that season begins. */
export const otherSeason: Guard = {
  id: "other-season",
  check: ({ sources, season }) =>
    sources
      .filter(({ seasons }) => seasons.length > 0 && !seasons.includes(season))
      .map(({ name, seasons }) => ({
        id: `other-season ${name}`,
        about: name,
        count: Number((seasons[0] ?? "").slice(0, 4)),
        sentence: message("step.otherSeason", { seasons: each(seasons), season }),
      })),
};
