import { Link } from "react-router";
import type { DateImport, DateImportLine } from "@amigo/contract/dateImport";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { WideTable } from "../ui/WideTable";
import { whenWords } from "../ui/whenWords";

const STEPS = {
  new: ["+", t("dates.stepNew"), "text-leaf-ink"],
  changed: ["~", t("dates.stepChanged"), ""],
  gone: ["−", t("dates.stepGone"), "text-brick"],
  "left out": ["!", t("dates.stepLeftOut"), "text-marigold-ink"],
  same: ["", t("dates.stepSame"), "text-ink-3"],
} as const satisfies Record<DateImportLine["step"], readonly [string, string, string]>;

/** What an import would do, line by line, with the button that does it; or what it has done. */
export function ImportFound({
  found,
  isBusy,
  onConfirm,
}: {
  found: DateImport;
  isBusy: boolean;
  onConfirm: () => void;
}) {
  const of = (step: DateImportLine["step"]): number =>
    found.lines.filter((line) => line.step === step).length;
  const counts = { made: of("new"), changed: of("changed"), gone: of("gone") };
  const isIdle = counts.made + counts.changed + counts.gone === 0;
  return (
    <section aria-label={t("dates.whatWouldBeDone")} className="mt-4">
      <p role="status" className="mb-2">
        {found.done ? t("dates.importDone", counts) : t("dates.importWould", counts)}{" "}
        {of("left out") > 0 && t("dates.importLeftOut", { count: of("left out") })}
      </p>
      {found.isUnsure && <p className="mb-2 text-[13px]">! {t("dates.daysFirstTaken")}</p>}
      {!found.done && !isIdle && (
        <Button look="go" className="mb-3" disabled={isBusy} onClick={onConfirm}>
          {t("dates.importNow", { count: counts.made + counts.changed + counts.gone })}
        </Button>
      )}
      {found.done && (
        <p className="mb-3">
          <Link to="/dates" className="text-petrol underline underline-offset-2">
            {t("dates.toTheDates")}
          </Link>
        </p>
      )}
      <Panel>
        <WideTable label={t("dates.whatWouldBeDone")}>
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              {(["step", "title", "when", "place", "list", "note"] as const).map((column) => (
                <th key={column} scope="col" className="px-3 py-2 font-[560]">
                  {t(COLUMNS[column])}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.lines.map((line, index) => {
              const [sign, word, look] = STEPS[line.step];
              return (
                <tr key={index} className="border-t border-hair-soft align-top">
                  <td className={`px-3 py-1.5 whitespace-nowrap ${look}`}>
                    {sign} {word}
                  </td>
                  <td className="px-3 py-1.5 font-[560] wrap-anywhere">{line.title}</td>
                  <td className="px-3 py-1.5">{line.when !== null && whenWords(line.when)}</td>
                  <td className="px-3 py-1.5 wrap-anywhere">{line.place}</td>
                  <td className="px-3 py-1.5 wrap-anywhere">{line.list}</td>
                  <td className="px-3 py-1.5 text-ink-2 wrap-anywhere">
                    {line.row > 0 && line.note !== ""
                      ? t("dates.rowNote", { row: line.row, note: line.note })
                      : line.note}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </WideTable>
      </Panel>
    </section>
  );
}

const COLUMNS = {
  step: "dates.columnStep",
  title: "dates.title",
  when: "dates.columnWhen",
  place: "dates.place",
  list: "dates.list",
  note: "dates.columnNote",
} as const;
