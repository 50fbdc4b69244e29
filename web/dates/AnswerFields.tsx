import type { DateFile, DateWhen } from "@amigo/contract/dates";
import { t } from "../texts/dates";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";
import { REMINDER_CHOICES, reminderWords, type ReminderChoice } from "./reminders";
import type { RepeatChoice } from "./dateWords";
import type { Whom } from "./WhomField";

/** A date as it stands in its form. */
export interface DateDraft {
  title: string;
  text: string;
  place: string;
  link: string;
  when: DateWhen;
  repeat: RepeatChoice;
  repeatUntil: string;
  answerUntil: string;
  /** As it stands in the field; empty for any number. */
  places: string;
  reminders: ReminderChoice;
  whom: Whom[];
  files: DateFile[];
}

/** Until when an answer is wanted, how many can come, and when those are reminded. */
export function AnswerFields({
  draft,
  set,
}: {
  draft: DateDraft;
  set: (part: Partial<DateDraft>) => void;
}) {
  return (
    <div className="grid items-start gap-3 md:grid-cols-3">
      <DayField
        label={t("dates.answerWantedBy")}
        help={t("dates.answerWantedHelp")}
        value={draft.answerUntil}
        onChange={(answerUntil) => set({ answerUntil })}
      />
      <Field
        label={t("dates.places")}
        help={t("dates.placesHelp")}
        type="number"
        min={1}
        max={100_000}
        value={draft.places}
        onChange={(event) => set({ places: event.target.value })}
      />
      <div>
        <p className="mb-1 text-[13px] font-[560]">{t("dates.reminders")}</p>
        <Choice
          label={t("dates.reminders")}
          value={draft.reminders}
          options={REMINDER_CHOICES.map((value) => ({ value, name: reminderWords(value) }))}
          onChange={(reminders) => set({ reminders })}
        />
        <p className="mt-1 text-[13px] text-ink-2">{t("dates.remindersHelp")}</p>
      </div>
    </div>
  );
}

/** What else there is to say about a date. */
export function TextField({
  value,
  onChange,
}: {
  value: string;
  onChange: (text: string) => void;
}) {
  return (
    <label className="block">
      <span className="mb-1 block text-[13px] font-[560]">{t("dates.description")}</span>
      <textarea
        rows={4}
        maxLength={4000}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 hover:border-ink-3"
      />
    </label>
  );
}
