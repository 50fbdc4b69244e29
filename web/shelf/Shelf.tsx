import { useRef, useState } from "react";
import type { ShelfThing } from "@amigo/contract/shelf";
import { useOpenShelfMutation, usePutFileMutation, useShelfQuery } from "../data/shelf";
import { useSendFiles } from "../data/uploads";
import { useMe } from "../data/me";
import { SendingFile } from "./SendingFile";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { fileSize } from "../ui/fileSize";
import { FilesField, type AddFiles } from "../ui/FilesField";
import { usePastedFiles } from "../ui/usePastedFiles";
import { FaultLine, Loading } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { dayOf, moment } from "../ui/time";
import { WideTable } from "../ui/WideTable";
import { AddLink } from "./AddLink";
import type { ShelfOf } from "./shelfOf";
import { ShelfDialog } from "./ShelfDialog";
import { TellMembers } from "./TellMembers";

/** How many files are taken at once: more are rather a folder chosen by mistake. */
const MOST_FILES = 300;

/** What a list shares with its members: who may open each thing, and how many have. */
export function Shelf({ list }: { list: ShelfOf }) {
  const { data, error } = useShelfQuery(list.id);
  const [put] = usePutFileMutation();
  const folders = useRef(new WeakMap<File, string>());
  const [fresh, setFresh] = useState<string[]>([]);
  const [shown, setShown] = useState<string>();
  const [isLinking, setLinking] = useState(false);
  const [tooMany, setTooMany] = useState(0);
  const added = (id: string): void => setFresh((before) => [...before, id]);
  const sending = useSendFiles("account", async (file, upload) => {
    const folder = folders.current.get(file) ?? "";
    const answer = await put({ list: list.id, folder, file, upload });
    if (answer.data !== undefined) added(answer.data.id);
    return answer;
  });
  const add: AddFiles = (files, folderOf) => {
    setTooMany(files.length > MOST_FILES ? files.length : 0);
    if (files.length > MOST_FILES) return;
    for (const file of files) folders.current.set(file, folderOf(file));
    void sending.sendAll(files);
  };
  usePastedFiles(list.isOpen, add);
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("shelf.theShelf")} />;
  const { things, isOpenToMembers } = data;
  const open = things.find(({ id }) => id === shown);
  const untold = things.filter(({ id }) => fresh.includes(id));
  return (
    <div className="overflow-auto">
      {things.length > 0 && <Things things={things} onShow={setShown} />}
      <Archives list={list.id} things={things} />
      <div className="flex flex-col gap-3 p-4">
        {list.isOpen && (
          <>
            <FilesField
              className="rounded-lg border border-dashed border-hair p-3"
              hint={t("shelf.orDropThemWhoLeaves")}
              isAdding={sending.isSending}
              withFolders
              onAdd={add}
            >
              <Button onClick={() => setLinking(true)}>{t("shelf.addALink")}</Button>
              {sending.underWay !== undefined && <SendingFile file={sending.underWay} />}
            </FilesField>
            <FaultLine error={sending.error} />
            {tooMany > 0 && (
              <p role="alert" className="text-[13px]">
                <Warn>{t("shelf.tooManyFiles", { count: tooMany, most: MOST_FILES })}</Warn>
              </p>
            )}
            {!list.isPrivate && <OpenToMembers list={list.id} isOpen={isOpenToMembers} />}
          </>
        )}
        {untold.length > 0 && (
          <TellMembers list={list} things={untold} onDone={() => setFresh([])} />
        )}
      </div>
      {isLinking && (
        <AddLink list={list.id} onClose={() => setLinking(false)} onAdded={(id) => added(id)} />
      )}
      {open !== undefined && (
        <ShelfDialog key={open.id} list={list} thing={open} onClose={() => setShown(undefined)} />
      )}
    </div>
  );
}

/** Where all files of the shelf, and those of each folder, are downloaded as one archive. */
function Archives({ list, things }: { list: string; things: readonly ShelfThing[] }) {
  const files = things.filter(({ kind }) => kind === "file");
  const folders = [...new Set(files.map(({ folder }) => folder))].filter((name) => name !== "");
  if (files.length < 2) return null;
  const path = `/api/lists/${list}/shelf/files/zip`;
  return (
    <p className="flex flex-wrap gap-x-4 gap-y-1 px-4 pt-2.5 text-[13px]">
      <a href={path} className="text-petrol underline underline-offset-2">
        {t("shelf.downloadAll")}
      </a>
      {folders.map((folder) => (
        <a
          key={folder}
          href={`${path}?folder=${encodeURIComponent(folder)}`}
          className="text-petrol underline underline-offset-2"
        >
          {t("shelf.downloadFolder", { folder })}
        </a>
      ))}
    </p>
  );
}

/** The sentence by which members may add things of their own to the shelf, or not. */
function OpenToMembers({ list, isOpen }: { list: string; isOpen: boolean }) {
  const [open, { error }] = useOpenShelfMutation();
  return (
    <>
      <p className="flex flex-wrap items-center gap-2 text-[13px]">
        {t("shelf.membersOfTheList")}
        <Choice
          label={t("shelf.membersOfTheList")}
          small
          value={isOpen ? "yes" : "no"}
          options={[
            { value: "no", name: t("shelf.mayAddNothing") },
            { value: "yes", name: t("shelf.mayAddFiles") },
          ]}
          onChange={(value) => void open({ list, isOpenToMembers: value === "yes" })}
        />
      </p>
      <FaultLine error={error} />
    </>
  );
}

function Things({
  things,
  onShow,
}: {
  things: readonly ShelfThing[];
  onShow: (id: string) => void;
}) {
  const { timeZone } = useMe();
  return (
    <WideTable label={t("shelf.theShelf")}>
      <thead>
        <tr className="border-b border-hair text-left text-[13px] text-ink-2">
          <th scope="col" className="px-4 py-2 font-[560]">
            {t("shelf.what")}
          </th>
          <th scope="col" className="px-3 py-2 font-[560]">
            {t("shelf.membersMayColumn")}
          </th>
          <th scope="col" className="px-3 py-2 font-[560]">
            {t("shelf.untilColumn")}
          </th>
          <th scope="col" className="px-4 py-2 font-[560]">
            {t("shelf.openedBy")}
          </th>
        </tr>
      </thead>
      <tbody>
        {things.map((thing) => (
          <tr key={thing.id} className="border-b border-hair-soft align-top">
            <td className="px-4 py-2">
              <button
                type="button"
                onClick={() => onShow(thing.id)}
                className="text-left font-[620] wrap-anywhere hover:underline"
              >
                {thing.folder !== "" && (
                  <span className="font-normal text-ink-2">{thing.folder} / </span>
                )}
                {thing.title}
              </button>
              <span className="block text-[13px] text-ink-2 wrap-anywhere">
                {aboutThing(thing)} · {thing.madeBy}, {moment(thing.madeAt, timeZone)}
              </span>
              {thing.isDamaged && <Warn>{t("shelf.isDamaged")}</Warn>}
            </td>
            <td className="px-3 py-2 text-[13px]">
              {t("shelf.mayWhat", { what: thing.membersMay })}
              {thing.comments > 0 && (
                <span className="block text-ink-2">
                  {t("shelf.commentCount", { count: thing.comments })}
                </span>
              )}
            </td>
            <td className="px-3 py-2 text-[13px] whitespace-nowrap">
              {thing.untilDay === ""
                ? t("shelf.noEnd")
                : thing.isOver
                  ? t("shelf.ended", { day: dayOf(thing.untilDay) })
                  : dayOf(thing.untilDay)}
            </td>
            <td className="px-4 py-2 text-[13px]">
              {t("shelf.openedOf", { opened: thing.opened, all: thing.mayOpen })}
              <Share part={thing.opened} of={thing.mayOpen} />
            </td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  );
}

function Share({ part, of }: { part: number; of: number }) {
  return (
    <span aria-hidden="true" className="mt-1 block h-1.5 w-24 rounded bg-sunk">
      <span
        className="block h-1.5 rounded bg-petrol"
        style={{ width: `${of === 0 ? 0 : (100 * part) / of}%` }}
      />
    </span>
  );
}

function aboutThing({ kind, name, size, version, others }: ShelfThing): string {
  const what = kind === "link" ? t("shelf.linkKeptElsewhere") : `${name}, ${fileSize(size)}`;
  return [
    what,
    ...(version > 1 ? [t("shelf.version", { version })] : []),
    ...(others.length > 0 ? [t("shelf.onShelves", { count: others.length + 1 })] : []),
  ].join(" · ");
}
