import { useState, type FormEvent } from "react";
import type { HelpedSource } from "@amigo/contract/readings";
import { useAddRowsMutation, useHelpedQuery } from "../data/staff";
import { t } from "../texts/helper";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";

const AT_FIRST = 3;

/** Where somebody adds rows to the sheets that they help with; what others have written there is not shown. */
export function AddRowsPage() {
  const { data: sources, error } = useHelpedQuery();
  return (
    <>
      <PageHead title={t("helper.addRows")} line={t("helper.aCoordinatorLooksAtThem")} />
      <FaultLine error={error} />
      {sources === undefined ? (
        error === undefined && <Loading what={t("helper.yourSheets")} />
      ) : sources.length === 0 ? (
        <Panel>
          <Empty title={t("helper.youHaveNoSheetsYet")}>
            <p>{t("helper.aCoordinatorChoosesWhichSheets")}</p>
          </Empty>
        </Panel>
      ) : (
        <div className="flex flex-col gap-3.5">
          {sources.map((source) => (
            <Sheet key={source.id} source={source} />
          ))}
        </div>
      )}
    </>
  );
}

function Sheet({ source }: { source: HelpedSource }) {
  const blank = (): string[] => source.columns.map(() => "");
  const [rows, setRows] = useState<string[][]>(() => Array.from({ length: AT_FIRST }, blank));
  const [add, { error, isLoading, data }] = useAddRowsMutation();
  const filled = rows.filter((row) => row.some((cell) => cell.trim() !== ""));
  const set = (at: number, column: number, text: string): void => {
    const next = rows.map((row, eachRow) =>
      eachRow === at ? row.map((cell, place) => (place === column ? text : cell)) : row,
    );
    setRows(
      next[next.length - 1]?.some((cell) => cell !== "") === true ? [...next, blank()] : next,
    );
  };
  /** Rows copied out of a spreadsheet fill the cells from here on. */
  const paste = (at: number, column: number, text: string): boolean => {
    const lines = text
      .replace(/\r?\n$/, "")
      .split(/\r?\n/)
      .map((line) => line.split("\t"));
    if (lines.length === 1 && lines[0]?.length === 1) return false;
    const next = [...rows];
    for (const [down, cells] of lines.entries())
      next[at + down] = (next[at + down] ?? blank()).map((cell, place) =>
        place >= column ? (cells[place - column] ?? cell) : cell,
      );
    setRows([...next, blank()]);
    return true;
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await add({ id: source.id, rows: filled });
    if (answer.error === undefined) setRows(Array.from({ length: AT_FIRST }, blank));
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-2">{source.name}</h2>
      {source.because !== "" ? (
        <p className="text-ink-2">{source.because}</p>
      ) : (
        <form onSubmit={(event) => void submit(event)} className="flex flex-col gap-3">
          <div
            className="overflow-x-auto"
            role="region"
            aria-label={t("helper.rowsFor", { name: source.name })}
            tabIndex={0}
          >
            <NewRows source={source} rows={rows} set={set} paste={paste} />
          </div>
          <FaultLine error={error} />
          {data !== undefined && filled.length === 0 && (
            <p role="status" className="text-leaf-ink">
              {t("helper.rowsAddedACoordinatorLooks", { added: data.added })}
            </p>
          )}
          <div>
            <Button look="go" type="submit" disabled={filled.length === 0 || isLoading}>
              {isLoading ? t("helper.adding") : t("helper.addRows2", { filled: filled.length })}
            </Button>
          </div>
        </form>
      )}
    </Panel>
  );
}

function NewRows({
  source,
  rows,
  set,
  paste,
}: {
  source: HelpedSource;
  rows: string[][];
  set: (at: number, column: number, text: string) => void;
  paste: (at: number, column: number, text: string) => boolean;
}) {
  return (
    <table className="wide-table text-[13px]">
      <thead>
        <tr>
          {source.columns.map(({ title }, column) => (
            <th key={column} className="px-1 pb-1 text-left font-[560] whitespace-nowrap">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, at) => (
          <tr key={at}>
            {row.map((cell, column) => (
              <td key={column} className="p-0.5">
                <input
                  aria-label={t("helper.newRow", {
                    title: source.columns[column]?.title ?? "",
                    number: at + 1,
                  })}
                  value={cell}
                  maxLength={1000}
                  onChange={(event) => set(at, column, event.target.value)}
                  onPaste={(event) => {
                    if (paste(at, column, event.clipboardData.getData("text/plain")))
                      event.preventDefault();
                  }}
                  className="h-[28px] w-40 rounded border border-hair bg-panel px-1.5"
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
