import { useVirtualizer, type ReactVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import type { EditWanted } from "@amigo/contract/edits";
import type { NameRow } from "@amigo/contract/naming";
import type { House } from "@amigo/contract/house";
import { useMe } from "../data/me";
import { useTriedNamesQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../edits/EditDialog";
import { FaultLine, Loading } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { today, usualLastDay } from "../ui/time";
import { NamingRules } from "./NamingRules";
import { DayField } from "../ui/DayField";
import { t } from "../texts/house";
import { PatternFields } from "./PatternFields";
import { ShortForms } from "./ShortForms";

const SETTLES_AFTER = 200;
const ROW = 46;
const COLUMNS = "minmax(170px,1.2fr) minmax(160px,1fr) minmax(190px,1.1fr) minmax(140px,1fr)";

/** What a row is to be called: what somebody wrote, else what the patterns make, else the way out of what is wrong with that. */
function wantedName(row: NameRow, written: Record<string, string>): string {
  const hard = row.faults.some(({ fault }) => fault !== "long");
  return (
    written[row.key] ??
    (row.recipe === null ? row.now : hard || row.made === "" ? row.proposal : row.made)
  );
}

/** Patterns and short forms to play with, and every list's old and new name side by side; all carried out as one round. */
export function NamingWorkshop({ house }: { house: House }) {
  const me = useMe();
  const [patterns, setPatterns] = useState<Record<string, string>>({});
  const [shorts, setShorts] = useState<Record<string, string | null>>({});
  const [written, setWritten] = useState<Record<string, string>>({});
  const [asked, setAsked] = useState({ patterns, shorts });
  const [show, setShow] = useState<"all" | "changed" | "faulty">("all");
  const [aliasUntil, setAliasUntil] = useState(usualLastDay(me.timeZone));
  const [preview, setPreview] = useState<EditWanted>();
  const [said, setSaid] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setAsked({ patterns, shorts }), SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [patterns, shorts]);
  const { data, error } = useTriedNamesQuery(asked);
  if (error !== undefined && data === undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("house.theNames")} />;
  const changed = data.rows.filter((row) => wantedName(row, written) !== row.now);
  const faulty = data.rows.filter(({ faults }) => faults.length > 0);
  const rows = show === "changed" ? changed : show === "faulty" ? faulty : data.rows;
  const isTouched =
    changed.length > 0 || Object.keys(patterns).length > 0 || Object.keys(shorts).length > 0;
  const see = (): void =>
    setPreview({
      what: "names",
      patterns,
      shorts,
      names: Object.fromEntries(changed.map((row) => [row.key, wantedName(row, written)])),
      aliasUntil,
    });
  return (
    <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(250px,330px)_minmax(0,1fr)]">
      <div className="flex min-w-0 flex-col lg:min-h-0 gap-3 overflow-auto">
        <PatternFields house={house} data={data} patterns={patterns} setPatterns={setPatterns} />
        <ShortForms shorts={data.shorts} written={shorts} onWrite={setShorts} />
        <NamingRules />
      </div>
      <div className="flex min-w-0 flex-col lg:min-h-0">
        {said !== "" && (
          <p role="status" className="mb-2 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
            {said}
          </p>
        )}
        <div className="mb-2 flex flex-wrap items-center gap-2.5">
          <Choice
            label={t("house.listsShown")}
            value={show}
            onChange={setShow}
            options={[
              { value: "all", name: t("house.allLists", { rows: data.rows.length }) },
              { value: "changed", name: t("house.thatGetANewName", { changed: changed.length }) },
              { value: "faulty", name: t("house.withAProblem", { faulty: faulty.length }) },
            ]}
          />
          {changed.length > 0 &&
            Object.keys(patterns).length +
              Object.keys(shorts).length +
              Object.keys(written).length ===
              0 && (
              <Warn>{t("house.listsDifferentFromTheNaming", { changed: changed.length })}</Warn>
            )}
          {faulty.length > 0 && (
            <Warn>{t("house.namesWithAProblem", { faulty: faulty.length })}</Warn>
          )}
          <span className="ml-auto flex items-center gap-2">
            <DayField
              inline
              label={t("house.oldAddressesWorkUntil")}
              value={aliasUntil}
              onChange={setAliasUntil}
              min={today(me.timeZone)}
            />
            {isTouched && (
              <Button
                onClick={() => {
                  setPatterns({});
                  setShorts({});
                  setWritten({});
                }}
              >
                {t("house.startOver")}
              </Button>
            )}
            <Button look="go" disabled={!isTouched || data.faults.length > 0} onClick={see}>
              {changed.length === 0
                ? t("house.preview")
                : t("house.previewRenameLists", { changed: changed.length })}
            </Button>
          </span>
        </div>
        <Names rows={rows} written={written} onWrite={setWritten} />
      </div>
      {preview !== undefined && (
        <EditDialog
          title={t("house.renameLists", { changed: changed.length })}
          edit={preview}
          onClose={() => setPreview(undefined)}
          onDone={(sentence) => {
            setPreview(undefined);
            setPatterns({});
            setShorts({});
            setWritten({});
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

function Names({
  rows,
  written,
  onWrite,
}: {
  rows: readonly NameRow[];
  written: Record<string, string>;
  onWrite: (written: Record<string, string>) => void;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const drawn = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 10,
    getItemKey: (index) => rows[index]?.key ?? index,
  });
  return (
    <div
      ref={scroll}
      role="table"
      aria-label={t("house.namesOfAllLists")}
      aria-rowcount={rows.length}
      tabIndex={0}
      className="max-lg:h-[65dvh] overflow-auto lg:min-h-0 lg:flex-1 rounded-lg border border-hair bg-panel focus-visible:-outline-offset-2"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid gap-x-3 border-b border-hair bg-panel px-4 py-1.5 text-[12px] font-[500] text-ink-3"
        style={{ gridTemplateColumns: COLUMNS }}
      >
        {[t("house.list"), t("house.currentName"), t("house.newName"), t("house.notes")].map(
          (title) => (
            <span key={title} role="columnheader">
              {title}
            </span>
          ),
        )}
      </div>
      <NameRows drawn={drawn} rows={rows} written={written} onWrite={onWrite} />
      {rows.length === 0 && (
        <p className="px-4 py-10 text-center text-ink-3">{t("house.noListsHere")}</p>
      )}
    </div>
  );
}

function NameRows({
  drawn,
  rows,
  written,
  onWrite,
}: {
  drawn: ReactVirtualizer<HTMLDivElement, Element>;
  rows: readonly NameRow[];
  written: Record<string, string>;
  onWrite: (written: Record<string, string>) => void;
}) {
  return (
    <div role="rowgroup" className="relative" style={{ height: drawn.getTotalSize() }}>
      {drawn.getVirtualItems().map(({ index, key, start }) => {
        const row = rows[index];
        if (row === undefined) return null;
        const name = wantedName(row, written);
        const [fault] = row.faults;
        return (
          <div
            key={key}
            ref={drawn.measureElement}
            data-index={index}
            role="row"
            className="absolute inset-x-0 grid items-center gap-x-3 border-b border-hair-soft px-4 py-1.5"
            style={{ gridTemplateColumns: COLUMNS, transform: `translateY(${start}px)` }}
          >
            <b role="cell" className="truncate font-[600]" title={row.title}>
              {row.title}
            </b>
            <span
              role="cell"
              className={`mono truncate ${name === row.now ? "text-ink-2" : "text-brick line-through"}`}
              title={row.now}
            >
              {row.now}
            </span>
            <span role="cell">
              <input
                aria-label={t("house.newNameOf", { title: row.title })}
                value={name}
                spellCheck={false}
                onChange={(event) =>
                  onWrite({ ...written, [row.key]: event.target.value.toLowerCase() })
                }
                className={`mono h-7 w-full rounded border bg-panel px-2 ${name === row.now ? "border-hair" : "border-leaf text-leaf-ink"}`}
              />
            </span>
            <span role="cell" className="text-[13px]">
              {fault === undefined ? (
                row.recipe !== null && name === row.now && row.made !== row.now ? (
                  <span className="text-ink-3">
                    {t("house.thePatternGives", { made: row.made })}
                  </span>
                ) : null
              ) : (
                <Warn>
                  {fault.sentence}
                  {name === row.proposal &&
                    name !== row.made &&
                    t("house.suggestion", { proposal: row.proposal })}
                </Warn>
              )}
            </span>
          </div>
        );
      })}
    </div>
  );
}
