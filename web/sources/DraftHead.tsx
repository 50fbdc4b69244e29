import { Rich, t } from "../texts/sources";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Warn } from "../ui/Signs";
import type { OpenedSheet } from "./sheetReader";
import type { DraftFault } from "./useDraft";
import { needsSomebody } from "./useFaultSteps";

/** In the choice of sheets: all that look alike, one for each class. */
const ALL = "\u0000all";

/** The line above a sheet before it is imported: how many rows and people it has, what is to look at, and which sheet is shown. */
export function DraftHead({
  opened,
  faults,
  sheet,
  busy,
  onAll,
  onSheet,
}: {
  opened: OpenedSheet;
  faults: readonly DraftFault[];
  /** The name of the sheet on the screen. */
  sheet: string;
  busy: boolean;
  onAll: () => void;
  onSheet: (name: string) => void;
}) {
  const { rows: rowCount, aside: setAside } = opened.counts;
  const toDecide = faults.filter(needsSomebody).length;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-3.5 py-1.5 text-[13px] text-ink-2">
      <span>
        <Rich
          id="sources.count"
          rowCount={<b className="font-[650] text-ink">{rowCount}</b>}
          rowCount2={rowCount}
          setAside={setAside}
        />
      </span>
      <span>
        <Rich
          id="sources.count2"
          students={<b className="font-[650] text-ink">{opened.students}</b>}
          students2={opened.students}
          guardians={<b className="font-[650] text-ink">{opened.guardians}</b>}
          guardians2={opened.guardians}
        />
      </span>
      <span>
        {toDecide > 0 ? (
          <Warn>{t("sources.cellsToLookAt", { toDecide })}</Warn>
        ) : (
          t("sources.noCellToLookAt")
        )}
        {faults.length > toDecide && t("sources.readByItself", { count: faults.length - toDecide })}
      </span>
      <span>
        {opened.table.headerRow < 0
          ? t("sources.noTitles")
          : t("sources.titlesInRow", { row: opened.table.headerRow + 1 })}
      </span>
      <span className="ml-auto flex items-center gap-2">
        {busy && <span role="status">{t("sources.lookingAgain")}</span>}
        {opened.sheets.length > 1 && (
          <WhichSheet
            opened={opened}
            sheet={sheet}
            onSheet={(name) => (name === ALL ? onAll() : onSheet(name))}
          />
        )}
      </span>
    </div>
  );
}

function WhichSheet({
  opened,
  sheet,
  onSheet,
}: {
  opened: OpenedSheet;
  sheet: string;
  onSheet: (name: string) => void;
}) {
  return (
    <>
      {opened.read.length > 1 ? (
        <span>{t("sources.allSheetsAreReadOne", { read: opened.read.length })}</span>
      ) : (
        opened.alike.length > 1 && (
          <Button className="min-h-[26px]! px-2! text-[13px]" onClick={() => onSheet(ALL)}>
            {t("sources.readAllAlike", { alike: opened.alike.length })}
          </Button>
        )
      )}
      <Choice
        small
        label={t("sources.sheetOfThisFile")}
        value={sheet}
        onChange={onSheet}
        options={opened.sheets.map(({ name, hidden }) => ({
          value: name,
          name: t("sources.sheetHidden", { name, hidden: String(hidden) }),
        }))}
      />
    </>
  );
}
