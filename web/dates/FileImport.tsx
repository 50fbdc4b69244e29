import { useState } from "react";
import type { ImportWishes } from "@amigo/contract/dateImport";
import { useImportDatesMutation } from "../data/dates";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { ImportFound } from "./ImportFound";
import { WishFields } from "./WishFields";

/** Dates from a fixture list or an iCalendar file: chosen, looked through, and made. */
export function FileImport() {
  const [file, setFile] = useState<File>();
  const [wishes, setWishes] = useState<ImportWishes>({ name: "", list: "", group: "" });
  const [ask, { data, error, isLoading, reset }] = useImportDatesMutation();
  const send = (plan: string): void => {
    if (file === undefined) return;
    const form = new FormData();
    for (const [key, value] of Object.entries({ ...wishes, plan })) form.set(key, value);
    form.set("file", file);
    void ask(form);
  };
  /** What was shown is no longer what would be done. */
  const change = (part: Partial<ImportWishes>): void => {
    setWishes({ ...wishes, ...part });
    reset();
  };
  return (
    <>
      <Panel className="max-w-3xl p-3 md:p-4">
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            send("");
          }}
        >
          <label className="block">
            <span className="mb-1 block text-[13px] font-[560]">{t("dates.file")}</span>
            <input
              type="file"
              className="block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 file:mr-3 file:rounded file:border-0 file:bg-petrol-soft file:px-2.5 file:py-1 file:font-[560]"
              accept=".xlsx,.ods,.xls,.csv,.tsv,.txt,.ics"
              onChange={(event) => {
                const chosen = event.target.files?.[0];
                setFile(chosen);
                change(
                  wishes.name === "" && chosen !== undefined
                    ? { name: chosen.name.replace(/\.[^.]+$/, "").slice(0, 80) }
                    : {},
                );
              }}
            />
          </label>
          <WishFields wishes={wishes} set={change} />
          <div>
            <Button
              type="submit"
              look={data === undefined ? "go" : "plain"}
              disabled={file === undefined || wishes.name.trim() === "" || isLoading}
            >
              {t("dates.lookThrough")}
            </Button>
          </div>
          <FaultLine error={error} />
        </form>
      </Panel>
      {data !== undefined && (
        <ImportFound found={data} isBusy={isLoading} onConfirm={() => send(data.plan)} />
      )}
    </>
  );
}
