import { each, message, type Message } from "@amigo/language/message";

/** When a source is read by itself: on some days at some times of the house's clock, or whenever it has changed. */
export type Schedule =
  | { when: "times"; /** 1 is Monday, 7 Sunday. */ days: number[]; /** `HH:MM` */ times: string[] }
  | { when: "changed" };

/** A schedule in words: `every day at 07:30`, `Tuesday and Thursday at 07:30 and 16:00`, `when it changes`. */
export function scheduleInWords(schedule: Schedule | null): Message {
  if (schedule === null) return message("schedule.byHand");
  if (schedule.when === "changed") return message("schedule.whenItChanges");
  const days = [...schedule.days].sort();
  return message("schedule.atTimes", {
    days: each(days.map((day) => ({ weekday: day }))),
    which: days.length === 7 ? "every" : days.join() === "1,2,3,4,5" ? "working" : "some",
    times: each([...schedule.times].sort()),
  });
}
