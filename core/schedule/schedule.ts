import { joined } from "../text/sentence";

/** When a source is read by itself: on some days at some times of the house's clock, or whenever it has changed. */
export type Schedule =
  | { when: "times"; /** 1 is Monday, 7 Sunday. */ days: number[]; /** `HH:MM` */ times: string[] }
  | { when: "changed" };

const DAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** A schedule in words: `every day at 07:30`, `Tuesday and Thursday at 07:30 and 16:00`, `when it changes`. */
export function scheduleInWords(schedule: Schedule | null): string {
  if (schedule === null) return "when somebody reads it";
  if (schedule.when === "changed") return "when it changes";
  const days = [...schedule.days].sort();
  const named =
    days.length === 7
      ? "every day"
      : days.join() === "1,2,3,4,5"
        ? "Monday to Friday"
        : joined(days.map((day) => DAY_NAMES[day - 1] ?? ""));
  return `${named} at ${joined([...schedule.times].sort())}`;
}
