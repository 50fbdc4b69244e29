import { type DateOrder, readMoment } from "@amigo/core/dates/readMoment";
import { localeOf } from "@amigo/core/text/place";
import type { SourceLine } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import type { OpenedSheet } from "./sheetReader";
import { t } from "../texts/sources";

/** The target of an import that makes a new source. */
export const NEW = "new";

/** Which source a sheet goes to: asked where it can't be told, and to be chosen otherwise. */
export function WhichSource({
  file,
  sources,
  target,
  candidates,
  name,
  onTarget,
  onName,
}: {
  file: string;
  sources: readonly SourceLine[];
  target: string | undefined;
  candidates: readonly string[] | undefined;
  name: string;
  onTarget: (target: string) => void;
  onName: (name: string) => void;
}) {
  if (target === undefined)
    return candidates === undefined ? (
      <p role="status" className="text-[13px] text-ink-2">
        {t("sources.lookingWhichSourceItContinues")}
      </p>
    ) : (
      <Question text={t("sources.whichSourceDoesBelongTo", { file })}>
        {candidates.map((id) => (
          <Button key={id} onClick={() => onTarget(id)}>
            {t("sources.itIsTheNext", {
              source: sources.find((source) => source.id === id)?.name ?? "",
            })}
          </Button>
        ))}
        <Button onClick={() => onTarget(NEW)}>{t("sources.itIsANewSource")}</Button>
      </Question>
    );
  return (
    <>
      {sources.length > 0 && (
        <Choice
          label={t("sources.importInto")}
          className="w-full justify-between"
          value={target}
          onChange={onTarget}
          options={[
            ...sources.map((source) => ({
              value: source.id,
              name: t("sources.into", { source: source.name }),
            })),
            { value: NEW, name: t("sources.asANewSource") },
          ]}
        />
      )}
      {target === NEW && (
        <Field
          label={t("sources.nameOfThisSource")}
          value={name}
          onChange={(event) => onName(event.target.value)}
          maxLength={80}
        />
      )}
    </>
  );
}

function Question({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <section
      role="group"
      aria-label={text}
      className="flex flex-col gap-1.5 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
    >
      <b className="text-[13px] font-[620] wrap-anywhere">{text}</b>
      {children}
    </section>
  );
}

/** Asks whether the day or the month comes first, with what a date of the sheet would be either way. */
export function WhichDate({
  dates: { title, sample },
  onOrder,
}: {
  dates: NonNullable<OpenedSheet["unsureDates"]>;
  onOrder: (order: DateOrder) => void;
}) {
  const me = useMe();
  const firstYear = Number(/^\d{4}/.exec(me.season)?.[0] ?? 2000);
  const shown = (order: DateOrder): string => {
    const instant = readMoment(sample, { order, timeZone: "UTC", firstYear });
    return instant === undefined
      ? order
      : new Intl.DateTimeFormat(localeOf(me), {
          day: "numeric",
          month: "long",
          year: "numeric",
          timeZone: "UTC",
        }).format(new Date(instant));
  };
  return (
    <Question text={t("sources.whichDayIsInThe", { sample, title })}>
      {(["day first", "month first"] as const).map((order) => (
        <Button key={order} onClick={() => onOrder(order)}>
          {shown(order)}
        </Button>
      ))}
    </Question>
  );
}
