import { useState, type FormEvent } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { DatePage as DateShown } from "@amigo/contract/dates";
import { addDays } from "@amigo/core/calendar/when";
import {
  useChangeDateMutation,
  useDatePreviewQuery,
  useDateQuery,
  useMakeDateMutation,
} from "../data/dates";
import { useAllListsQuery } from "../data/lists";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";
import { FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { today } from "../ui/time";
import { wantedOf, WhomField, type Whom } from "./WhomField";
import { reminderChoice, REMINDERS } from "./reminders";
import { AnswerFields, TextField, type DateDraft } from "./AnswerFields";
import { DateFiles } from "./DateFiles";
import { WhenFields } from "./WhenFields";
import { repeatChoice, repeatOf, REPEATS, type RepeatChoice } from "./dateWords";

/** A new date. */
export function NewDatePage() {
  const me = useMe();
  const [search] = useSearchParams();
  const first = addDays(today(me.timeZone), 7);
  const list = search.get("list");
  const { data: all } = useAllListsQuery("", { skip: list === null });
  const chosen = all?.lists.find(({ id }) => id === list);
  if (list !== null && all === undefined) return <Loading what={t("dates.theDate")} />;
  return (
    <>
      <PageHead title={t("dates.makeADate")} line={t("dates.itGoesToEverybodysCalendar")} />
      <DateForm
        draft={{
          title: "",
          text: "",
          place: "",
          link: "",
          when: { allDay: false, from: `${first}T18:00`, until: `${first}T19:00` },
          repeat: "never",
          repeatUntil: "",
          answerUntil: "",
          places: "",
          reminders: "none",
          files: [],
          whom: chosen === undefined ? [] : [{ kind: "list", id: chosen.id, name: chosen.title }],
        }}
      />
    </>
  );
}

/** A date that is changed. */
export function EditDatePage() {
  const { id = "" } = useParams();
  const { data: date, error } = useDateQuery(id);
  if (error !== undefined) return <FaultPage error={error} />;
  if (date === undefined) return <Loading what={t("dates.theDate")} />;
  return (
    <>
      <PageHead title={t("dates.changeDate", { title: date.title })} />
      <DateForm draft={draftOf(date)} of={{ id, sequence: date.sequence }} />
    </>
  );
}

function draftOf({
  title,
  text,
  place,
  link,
  when,
  repeat,
  answerUntil,
  places,
  reminders,
  lists,
  people,
  privateLists,
  files,
}: DateShown): DateDraft {
  return {
    title,
    text,
    place,
    link,
    when,
    repeat: repeatChoice(repeat),
    repeatUntil: repeat?.until ?? "",
    answerUntil,
    places: places === null ? "" : String(places),
    reminders: reminderChoice(reminders),
    files,
    whom: [
      ...lists.map(({ id, title: name }): Whom => ({ kind: "list", id, name })),
      ...privateLists.map((list): Whom => ({ kind: "private", ...list })),
      ...people.map((person): Whom => ({ kind: "person", ...person })),
    ],
  };
}

function DateForm({
  draft: first,
  of,
}: {
  draft: DateDraft;
  of?: { id: string; sequence: number };
}) {
  const navigate = useNavigate();
  const [draft, setDraft] = useState(first);
  const [isAdding, setAdding] = useState(false);
  const [make, making] = useMakeDateMutation();
  const [change, changing] = useChangeDateMutation();
  const wanted = wantedOf(draft.whom);
  const isEmpty = draft.whom.length === 0;
  const { data: preview } = useDatePreviewQuery(wanted, { skip: isEmpty });
  const set = (part: Partial<DateDraft>): void => setDraft({ ...draft, ...part });
  const addresses = isEmpty ? 0 : (preview?.addresses ?? 0);
  const refused = isEmpty ? [] : (preview?.refused ?? []);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { repeat, repeatUntil, places, reminders, files, whom: _, ...rest } = draft;
    const content = {
      ...rest,
      ...wanted,
      repeat: repeatOf(repeat, repeatUntil),
      places: places === "" ? null : Number(places),
      reminders: [...REMINDERS[reminders]],
      files: files.map(({ id }) => id),
    };
    const done = await (of === undefined ? make(content) : change({ ...of, ...content }));
    if (done.error === undefined) void navigate(`/dates/${done.data.id}`);
  };
  return (
    <Panel className="max-w-3xl p-3 md:p-4">
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <Field
          label={t("dates.title")}
          required
          maxLength={200}
          value={draft.title}
          onChange={(event) => set({ title: event.target.value })}
        />
        <WhomField chosen={draft.whom} onChange={(whom) => set({ whom })} />
        {refused.map((sentence) => (
          <p key={sentence} role="alert" className="text-[13px]">
            <Warn>{sentence}</Warn>
          </p>
        ))}
        <WhenFields when={draft.when} onChange={(when) => set({ when })} />
        <RepeatFields draft={draft} set={set} />
        <div className="grid gap-3 md:grid-cols-2">
          <Field
            label={t("dates.place")}
            maxLength={200}
            value={draft.place}
            onChange={(event) => set({ place: event.target.value })}
          />
          <Field
            label={t("dates.linkToMeet")}
            type="url"
            maxLength={1000}
            value={draft.link}
            onChange={(event) => set({ link: event.target.value })}
          />
        </div>
        <TextField value={draft.text} onChange={(text) => set({ text })} />
        <DateFiles
          files={draft.files}
          onBusy={setAdding}
          onChange={(change) => setDraft((before) => ({ ...before, files: change(before.files) }))}
        />
        <AnswerFields draft={draft} set={set} />
        <div className="flex flex-wrap items-center gap-3">
          <Button
            type="submit"
            look="go"
            disabled={
              making.isLoading ||
              changing.isLoading ||
              isAdding ||
              addresses === 0 ||
              refused.length > 0
            }
          >
            {of === undefined
              ? t("dates.inviteAddresses", { addresses })
              : t("dates.saveAndTell", { addresses })}
          </Button>
          {of !== undefined && (
            <span className="text-[13px] text-ink-2">{t("dates.mailOnlyIfItMatters")}</span>
          )}
        </div>
        <FaultLine error={making.error ?? changing.error} />
      </form>
    </Panel>
  );
}

const REPEAT_WORDS: Record<RepeatChoice, string> = {
  never: t("dates.once"),
  week: t("dates.everyWeek"),
  "two weeks": t("dates.everyTwoWeeks"),
  month: t("dates.everyMonth"),
  "month by weekday": t("dates.everyMonthByWeekday"),
};

function RepeatFields({
  draft,
  set,
}: {
  draft: DateDraft;
  set: (part: Partial<DateDraft>) => void;
}) {
  return (
    <div className="grid items-start gap-3 md:grid-cols-2">
      <div>
        <p className="mb-1 text-[13px] font-[560]">{t("dates.howOften")}</p>
        <Choice
          label={t("dates.howOften")}
          value={draft.repeat}
          options={REPEATS.map((value) => ({ value, name: REPEAT_WORDS[value] }))}
          onChange={(repeat) =>
            set({
              repeat,
              repeatUntil:
                draft.repeatUntil === ""
                  ? addDays(draft.when.from.slice(0, 10), 90)
                  : draft.repeatUntil,
            })
          }
        />
      </div>
      {draft.repeat !== "never" && (
        <DayField
          label={t("dates.repeatedUntil")}
          required
          min={draft.when.from.slice(0, 10)}
          value={draft.repeatUntil}
          onChange={(repeatUntil) => set({ repeatUntil })}
        />
      )}
    </div>
  );
}
