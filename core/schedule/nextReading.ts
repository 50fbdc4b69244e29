import { Cron } from "croner";
import type { Schedule } from "./schedule";

/** How often a source that is read "when it changes" is looked at, in minutes: a file in a folder, and a web address. */
const LOOK_EVERY = { watched: 1, web: 15 } as const;

/**
 * When a source is to be looked at next.
 *
 * @param after    the instant after which it is
 * @param timeZone the house's, by whose clocks the times are meant; a time that a change of clocks leaves out is read just after it
 * @returns undefined for a source that is read only by a person
 */
export function nextReading(
  schedule: Schedule | null,
  kind: "watched" | "web",
  after: Date,
  timeZone: string,
): Date | undefined {
  if (schedule === null) return undefined;
  if (schedule.when === "changed") return new Date(after.getTime() + LOOK_EVERY[kind] * 60_000);
  const days = schedule.days.map((day) => day % 7).join(",");
  const times = schedule.times.flatMap((time) => {
    const [hour = "0", minute = "0"] = time.split(":");
    return (
      new Cron(`${Number(minute)} ${Number(hour)} * * ${days}`, {
        timezone: timeZone,
        paused: true,
      }).nextRun(after) ?? []
    );
  });
  return times.sort((a, b) => a.getTime() - b.getTime())[0];
}
