import { t } from "../texts/dates";

/** The reminders that a date can have, by what stands in the form, as days before it. */
export const REMINDERS = {
  none: [],
  day: [1],
  "three days": [3],
  week: [7],
  "week and day": [7, 1],
} as const satisfies Record<string, readonly number[]>;
export type ReminderChoice = keyof typeof REMINDERS;
export const REMINDER_CHOICES: readonly ReminderChoice[] = [
  "none",
  "day",
  "three days",
  "week",
  "week and day",
];

/** Returns the choice that a date's reminders are shown as: the one that is nearest. */
export function reminderChoice(reminders: readonly number[]): ReminderChoice {
  const same = REMINDER_CHOICES.find(
    (choice) => REMINDERS[choice].join() === [...reminders].sort((a, b) => b - a).join(),
  );
  return same ?? (reminders.length > 1 ? "week and day" : "day");
}

const WORDS: Record<ReminderChoice, string> = {
  none: t("dates.noReminder"),
  day: t("dates.theDayBefore"),
  "three days": t("dates.threeDaysBefore"),
  week: t("dates.aWeekBefore"),
  "week and day": t("dates.aWeekAndADayBefore"),
};

/** Says when those who come are reminded. */
export function reminderWords(choice: ReminderChoice): string {
  return WORDS[choice];
}
