import { say } from "@amigo/language/say";
import { useState } from "react";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Panel } from "../ui/Page";
import type { OpenedSheet } from "./sheetReader";
import type { SaidOfSheet } from "./overlaid";
import { t } from "../texts/sources";
import type { HeadingMeaning } from "@amigo/core/sheet/table";

/** How the sheet is laid out and why its columns are taken as they are; every part can be changed. */
export function LayoutPanel({
  opened: { table },
  several,
  onSeveral,
  onSay,
}: {
  opened: OpenedSheet;
  /** Whether a row can have several children, so that columns can be given to each. */
  several: boolean;
  onSeveral: (several: boolean) => void;
  onSay: (said: SaidOfSheet) => void;
}) {
  return (
    <Panel className="px-4 py-3">
      <details>
        <summary className="cursor-pointer font-[620]">
          {t("sources.howThisSheetIsUnderstood")}
        </summary>
        <div className="mt-2 flex flex-col gap-2.5">
          <HeaderRow key={table.headerRow} row={table.headerRow} onSay={onSay} />
          <Choice
            label={t("sources.childrenInARow")}
            className="w-full justify-between"
            value={several ? "several" : "one"}
            onChange={(value) => onSeveral(value === "several")}
            options={[
              { value: "one", name: t("sources.oneChildInARow") },
              { value: "several", name: t("sources.severalChildrenInARow") },
            ]}
          />
          {table.headings !== undefined && (
            <>
              <Choice<HeadingMeaning | "none">
                label={t("sources.linesBetweenTheRows")}
                className="w-full justify-between"
                value={table.headings.meaning}
                onChange={(headings) => onSay({ headings })}
                options={[
                  { value: "classes", name: t("sources.linesBetweenRowsClass") },
                  { value: "teams", name: t("sources.linesBetweenRowsTeam") },
                  { value: "site", name: t("sources.linesBetweenRowsSite") },
                  { value: "student.level", name: t("sources.linesBetweenRowsLevel") },
                  { value: "none", name: t("sources.linesBetweenRowsIgnoreThem") },
                ]}
              />
              <p className="-mt-1.5 text-[13px] wrap-anywhere text-ink-3">
                {t("sources.lines", {
                  lines: table.headings.lines.length,
                  list: table.headings.lines
                    .slice(0, 4)
                    .map(({ text }) => text)
                    .join(", "),
                  isMore: String(table.headings.lines.length > 4),
                })}
              </p>
            </>
          )}
          {table.everyRow !== undefined && (
            <EveryRow key={table.everyRow.value} value={table.everyRow.value} onSay={onSay} />
          )}
          <h3 className="font-[620]">{t("sources.whyEachColumnIsRead")}</h3>
          <ul className="text-[13px]">
            {table.columns
              .filter(({ title, isEmpty }) => title !== "" || isEmpty !== true)
              .map(({ index, title, why }) => (
                <li key={index} className="border-t border-hair-soft py-1 wrap-anywhere">
                  <b className="font-[620]">
                    {title === "" ? t("sources.column", { number: index + 1 }) : title}:
                  </b>{" "}
                  {say(why) || t("sources.youHaveSaidSo")}
                </li>
              ))}
          </ul>
        </div>
      </details>
    </Panel>
  );
}

function HeaderRow({ row, onSay }: { row: number; onSay: (said: SaidOfSheet) => void }) {
  const [text, setText] = useState(String(row + 1));
  const wanted = /^\d{1,6}$/.test(text.trim()) ? Number(text) : undefined;
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (wanted !== undefined && wanted !== row + 1) onSay({ headerRow: wanted - 1 });
      }}
    >
      <Field
        label={t("sources.rowOfTheTitles0")}
        className="flex-1"
        inputMode="numeric"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={wanted === undefined || wanted === row + 1}>
        {t("sources.change")}
      </Button>
    </form>
  );
}

function EveryRow({ value, onSay }: { value: string; onSay: (said: SaidOfSheet) => void }) {
  const [text, setText] = useState(value);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSay({ everyRow: text.trim() });
      }}
    >
      <Field
        label={t("sources.classOfEverybodyHere")}
        help={t("sources.leaveItEmptyIfThey")}
        className="flex-1"
        maxLength={200}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" className="mb-[25px]" disabled={text.trim() === value}>
        {t("sources.change")}
      </Button>
    </form>
  );
}
