import type { Guard } from "./guard";

const HOUR = 3_600_000;

/** The file is older than the one that was read last. The count to type is by how many hours, rounded up. */
export const olderFile: Guard = {
  id: "older-file",
  check: ({ sources }) => sources
    .filter(({ writtenNow, writtenBefore }) => writtenNow !== "" && writtenBefore !== "" && writtenNow < writtenBefore)
    .map(({ name, writtenNow, writtenBefore }) => {
      const hours = Math.ceil((Date.parse(writtenBefore) - Date.parse(writtenNow)) / HOUR);
      return { id: `older-file ${name}`, about: name, count: hours, sentence: `comes from a file that is ${hours === 1 ? "an hour" : hours < 48 ? `${hours} hours` : `${hours} hours (${Math.round(hours / 24)} days)`} older than the one read before it. Is it the right file?` };
    }),
};
