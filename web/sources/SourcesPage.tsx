import { useRef, useState, type DragEvent, type Dispatch, type SetStateAction } from "react";
import { Link, useParams } from "react-router";
import type { SourceLine } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Modal } from "../ui/Modal";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { AddPlace } from "./AddPlace";
import { Draft } from "./Draft";
import { useSourcesQuery } from "../data/sources";
import { PostedStart } from "./Posted";
import { StoredReading } from "./StoredReading";
import { Rich, t } from "../texts/sources";
import type { Dropped } from "./dropped";
import { Samples } from "./Samples";
import type { Me } from "@amigo/contract/accounts";

/** The sources: each sheet shown as a sheet, a drop of a new one at any time. */
export function SourcesPage() {
  const me = useMe();
  const { id } = useParams();
  const { data: sources, error } = useSourcesQuery();
  const [dropped, setDropped] = useState<Dropped>();
  const [over, setOver] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [adding, setAdding] = useState(false);
  const [told, setTold] = useState<string>();
  const chooser = useRef<HTMLInputElement>(null);
  const take = (file: File | undefined, from: Omit<Dropped, "key" | "file"> = {}): void => {
    if (file !== undefined) {
      setTold(undefined);
      setDropped({ key: Date.now(), file, ...from });
    }
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files[0]);
  };
  if (error !== undefined) return <FaultPage error={error} />;
  if (sources === undefined) return <Loading what={t("sources.theSources")} />;
  const chosen = sources.find((source) => source.id === id) ?? sources[0];
  const next = sources
    .flatMap(({ nextAt, schedule }) =>
      nextAt !== null && schedule?.when === "times" ? [nextAt] : [],
    )
    .sort()[0];
  return (
    <div
      className="flex flex-col lg:min-h-0 lg:flex-1"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target) setOver(false);
      }}
      onDrop={drop}
    >
      <PageHead
        title={t("sources.sources")}
        line={
          sources.length === 0
            ? t("sources.noSheetImportedYet")
            : next === undefined
              ? t("sources.sources2", { sources: sources.length })
              : t("sources.sourcesNextImport", {
                  sources: sources.length,
                  when: moment(next, me.timeZone),
                })
        }
      >
        <Link
          to="/forms"
          className="inline-flex min-h-[30px] items-center rounded-md px-3 font-[560] text-petrol hover:bg-petrol-soft"
        >
          {t("sources.signUpForms")}
        </Link>
        <Button onClick={() => setAdding(true)}>{t("sources.connectAFileOrWeb")}</Button>
        <Button onClick={() => setPasting(true)}>{t("sources.pasteASheet")}</Button>
        <Button
          look={sources.length === 0 || dropped !== undefined ? "plain" : "go"}
          onClick={() => chooser.current?.click()}
        >
          {t("sources.chooseAFile")}
        </Button>
        <input
          ref={chooser}
          type="file"
          aria-label={t("sources.fileToRead")}
          className="hidden"
          accept=".xlsx,.ods,.xls,.csv,.tsv,.txt"
          onChange={(event) => {
            take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </PageHead>
      {sources.length > 0 && (
        <SourceTabs
          sources={sources}
          dropped={dropped}
          chosen={chosen}
          setDropped={setDropped}
          setTold={setTold}
          me={me}
        />
      )}
      {told !== undefined && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          <b className="text-leaf-ink">✓ </b>
          {told}
        </p>
      )}
      {dropped !== undefined ? (
        <Draft
          key={dropped.key}
          dropped={dropped}
          sources={sources}
          into={dropped.kind === "posted" ? dropped.location : undefined}
          onDone={(sentence) => {
            setDropped(undefined);
            setTold(sentence);
          }}
        />
      ) : chosen?.kind === "posted" && chosen.last === null ? (
        <PostedStart key={chosen.id} source={chosen} onTake={take} />
      ) : chosen?.last == null ? (
        <DropHere onChoose={() => chooser.current?.click()} onTake={take} />
      ) : (
        <StoredReading key={chosen.id} source={chosen} reading={chosen.last.id} onTake={take} />
      )}
      {over && (
        <div className="pointer-events-none fixed inset-0 z-30 m-3 flex items-center justify-center rounded-xl border-2 border-dashed border-petrol bg-petrol-soft/80 text-[18px] font-[620] text-petrol">
          {t("sources.dropTheSheetToLook")}
        </div>
      )}
      {pasting && (
        <Paste
          onClose={() => setPasting(false)}
          onTake={(file) => take(file, { kind: "pasted" })}
        />
      )}
      {adding && <AddPlace onClose={() => setAdding(false)} onTake={take} />}
    </div>
  );
}

function Tab({
  source,
  on,
  onGo,
  timeZone,
}: {
  source: SourceLine;
  on: boolean;
  onGo: () => void;
  timeZone: string;
}) {
  const { last } = source;
  return (
    <Link
      to={`/sources/${source.id}`}
      onClick={onGo}
      aria-current={on ? "page" : undefined}
      className={`min-w-[170px] rounded-lg border bg-panel px-3 py-1.5 text-[13px] leading-[1.3] hover:border-petrol ${on ? "border-petrol shadow-[inset_0_0_0_1px_var(--petrol)]" : "border-hair"}`}
    >
      <b className="block text-[14px] font-[620]">
        {source.failures > 0 ? <Warn>{source.name}</Warn> : source.name}
      </b>
      <span className="text-ink-3">
        {source.failures > 0 && source.failingSince !== null ? (
          t("sources.notImportedSince", { when: moment(source.failingSince, timeZone) })
        ) : last === null ? (
          source.kind === "posted" ? (
            t("sources.answers", { posted: source.posted })
          ) : (
            t("sources.notImportedYet")
          )
        ) : (
          <>
            <Rich
              id="sources.rowsImported"
              rows={last.rows}
              when={moment(last.readAt, timeZone)}
              faults={
                last.toDecide > 0 && (
                  <>
                    , <Warn>{t("sources.faults", { toDecide: last.toDecide })}</Warn>
                  </>
                )
              }
            />
          </>
        )}
      </span>
    </Link>
  );
}

function DropHere({ onChoose, onTake }: { onChoose: () => void; onTake: (file: File) => void }) {
  return (
    <Panel className="flex flex-1 items-center justify-center border-dashed">
      <div className="flex max-w-md flex-col items-center gap-3 p-8 text-center">
        <h2 className="text-[18px]!">{t("sources.dropTheRosterHere")}</h2>
        <p className="text-ink-2">{t("sources.theSheetAsTheOffice")}</p>
        <Button look="go" onClick={onChoose}>
          {t("sources.chooseAFile")}
        </Button>
        <div className="mt-2 w-full">
          <Samples onTake={onTake} />
        </div>
      </div>
    </Panel>
  );
}

function Paste({ onClose, onTake }: { onClose: () => void; onTake: (file: File) => void }) {
  const [text, setText] = useState("");
  const take = (): void => {
    onTake(new File([text], t("sources.pastedSheetTsv"), { type: "text/tab-separated-values" }));
    onClose();
  };
  return (
    <Modal wide title={t("sources.pasteASheet")} onClose={onClose}>
      <p className="mb-2 text-ink-2">{t("sources.copyTheCellsInYour")}</p>
      <textarea
        autoFocus
        aria-label={t("sources.cells")}
        value={text}
        onChange={(event) => setText(event.target.value)}
        rows={12}
        className="mono w-full rounded-md border border-hair bg-panel p-2 whitespace-pre"
      />
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>{t("sources.close")}</Button>
        <Button look="go" disabled={text.trim() === ""} onClick={take}>
          {t("sources.lookAtIt")}
        </Button>
      </div>
    </Modal>
  );
}

function SourceTabs({
  sources,
  dropped,
  chosen,
  setDropped,
  setTold,
  me,
}: {
  sources: SourceLine[];
  dropped: Dropped | undefined;
  chosen: SourceLine | undefined;
  setDropped: Dispatch<SetStateAction<Dropped | undefined>>;
  setTold: Dispatch<SetStateAction<string | undefined>>;
  me: Me;
}) {
  return (
    <nav aria-label={t("sources.sources")} className="mb-3 flex flex-wrap gap-1.5">
      {sources.map((source) => (
        <Tab
          key={source.id}
          source={source}
          on={dropped === undefined && source.id === chosen?.id}
          onGo={() => {
            setDropped(undefined);
            setTold(undefined);
          }}
          timeZone={me.timeZone}
        />
      ))}
    </nav>
  );
}
