import { message } from "@amigo/language/message";
import type { Guard } from "./guard";

const HOUR = 3_600_000;

/** The file is older than the one that was read last, by an hour at least: copying alone can turn the order of minutes. The count to type is the hours. */
export const olderFile: Guard = {
  id: "older-file",
  check: ({ sources }) =>
    sources.flatMap(({ name, writtenNow, writtenBefore }) => {
      const hours =
        writtenNow === "" || writtenBefore === ""
          ? 0
          : Math.floor((Date.parse(writtenBefore) - Date.parse(writtenNow)) / HOUR);
      if (hours < 1) return [];
      return [
        {
          id: `older-file ${name}`,
          about: name,
          count: hours,
          sentence: message("step.olderFile", {
            hours,
            days: hours < 48 ? 0 : Math.round(hours / 24),
          }),
        },
      ];
    }),
};
