import { useRef, useState } from "react";
import type { ShelfThing } from "@amigo/contract/shelf";
import type { ListPage as List } from "@amigo/contract/lists";
import {
  useChangeThingMutation,
  usePutVersionMutation,
  useRestoreVersionMutation,
  useShelfThingQuery,
  useTakeOffMutation,
} from "../data/shelf";
import { useAllListsQuery } from "../data/lists";
import { useMe } from "../data/me";
import { t } from "../texts/t";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";
import { fileSize } from "../ui/fileSize";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { moment, today } from "../ui/time";

/** One thing on the shelf: what it is called, until when it is open, who has opened it, and its versions. */
export function ShelfDialog({
  list,
  thing,
  onClose,
}: {
  list: List;
  thing: ShelfThing;
  onClose: () => void;
}) {
  const [takeOff, taking] = useTakeOffMutation();
  return (
    <Modal title={thing.title} onClose={onClose} wide>
      <ChangeForm list={list} thing={thing} onDone={onClose} />
      <Details thing={thing} />
      <FaultLine error={taking.error} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button
          disabled={taking.isLoading}
          onClick={() =>
            void takeOff({ id: thing.id, list: list.id }).then(({ error }) => {
              if (error === undefined) onClose();
            })
          }
        >
          {t("list.takeOffTheShelf")}
        </Button>
        {thing.kind === "file" && <NewVersion thing={thing} />}
        <a
          href={
            thing.kind === "link" ? thing.link : `/api/shelf/${thing.id}/files/${thing.version}`
          }
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
        >
          {t("list.open")}
        </a>
        <Button onClick={onClose}>{t("list.closeDialog")}</Button>
      </div>
    </Modal>
  );
}

function ChangeForm({
  list,
  thing,
  onDone,
}: {
  list: List;
  thing: ShelfThing;
  onDone: () => void;
}) {
  const me = useMe();
  const [title, setTitle] = useState(thing.title);
  const [folder, setFolder] = useState(thing.folder);
  const [untilDay, setUntilDay] = useState(thing.untilDay);
  const [others, setOthers] = useState(thing.others);
  // What was there when the form was opened: what somebody else changes meanwhile is not overwritten unseen.
  const [changes] = useState(thing.changes);
  const { data: all } = useAllListsQuery("");
  const [change, { error, isLoading }] = useChangeThingMutation();
  const free = (all?.lists ?? []).filter(
    ({ id, state }) => state === "open" && id !== list.id && !others.some((one) => one.id === id),
  );
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void change({
          id: thing.id,
          ...{ title, folder, untilDay },
          lists: [list.id, ...others.map(({ id }) => id)],
          changes,
        }).then((answer) => {
          if (answer.error === undefined) onDone();
        });
      }}
    >
      <Field
        label={t("list.title")}
        required
        maxLength={200}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <div className="grid items-start gap-3 md:grid-cols-2">
        <DayField
          label={t("list.openUntil")}
          help={t("list.openUntilHelp")}
          min={today(me.timeZone)}
          value={untilDay}
          onChange={setUntilDay}
        />
        <Field
          label={t("list.folder")}
          maxLength={100}
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-[13px] font-[560]">{t("list.alsoOnTheShelfOf")}</span>
        {others.map(({ id, title: name }) => (
          <span key={id} className="flex items-center gap-1.5 rounded bg-sunk py-0.5 pr-1 pl-2">
            {name}
            <button
              type="button"
              aria-label={t("list.removeShelf", { name })}
              onClick={() => setOthers(others.filter((one) => one.id !== id))}
              className="rounded px-1 hover:bg-panel"
            >
              ×
            </button>
          </span>
        ))}
        <Choice
          label={t("list.anotherList")}
          small
          value=""
          options={[
            { value: "", name: t("list.anotherList") },
            ...free.map(({ id, title: name }) => ({ value: id, name })),
          ]}
          onChange={(id) => {
            const found = free.find((one) => one.id === id);
            if (found !== undefined) setOthers([...others, { id, title: found.title }]);
          }}
        />
      </div>
      <FaultLine error={error} />
      <div>
        <Button type="submit" look="go" disabled={isLoading || title.trim() === ""}>
          {t("list.save")}
        </Button>
      </div>
    </form>
  );
}

function NewVersion({ thing }: { thing: ShelfThing }) {
  const input = useRef<HTMLInputElement>(null);
  const [put, { data, error, isLoading }] = usePutVersionMutation();
  return (
    <>
      <Button disabled={isLoading} onClick={() => input.current?.click()}>
        {t("list.newVersion")}
      </Button>
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-hidden="true"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file !== undefined) void put({ id: thing.id, file, version: thing.version });
          event.target.value = "";
        }}
      />
      <FaultLine error={error} />
      {data?.besideAnother === true && <p role="alert">{t("list.anotherVersionToo")}</p>}
    </>
  );
}

function Details({ thing }: { thing: ShelfThing }) {
  const { timeZone } = useMe();
  const { data, error } = useShelfThingQuery(thing.id);
  const [restore, restoring] = useRestoreVersionMutation();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("list.whoHasOpenedIt")} />;
  const missing = data.openers.filter(({ openedAt }) => openedAt === null);
  return (
    <div className="mt-4 flex flex-col gap-3">
      <details>
        <summary className="cursor-pointer font-[560]">
          {t("list.canOpenItNow", {
            all: data.openers.length,
            opened: data.openers.length - missing.length,
          })}
        </summary>
        <ul className="mt-1 max-h-60 overflow-auto">
          {[...data.openers, ...data.former].map((opener) => (
            <li key={opener.address} className="flex flex-wrap gap-x-3 py-0.5 text-[13px]">
              <span className="min-w-40">{"name" in opener ? opener.name : ""}</span>
              <Address className="flex-1 text-ink-2">{opener.address}</Address>
              <span>
                {"why" in opener
                  ? opener.why
                  : opener.openedAt === null
                    ? t("list.notYet")
                    : moment(opener.openedAt, timeZone)}
              </span>
            </li>
          ))}
        </ul>
      </details>
      {data.versions.length > 1 && (
        <section aria-label={t("list.versions")}>
          <h3 className="text-[13px] text-ink-2">{t("list.versions")}</h3>
          <ul>
            {data.versions.map(({ number, name, size, by, at }) => (
              <li
                key={number}
                className="flex flex-wrap items-center gap-x-3 border-t border-hair-soft py-1 text-[13px]"
              >
                <a
                  href={`/api/shelf/${thing.id}/files/${number}`}
                  target="_blank"
                  rel="noreferrer"
                  className="text-petrol hover:underline"
                >
                  {t("list.version", { version: number })}
                </a>
                <span className="flex-1 wrap-anywhere">
                  {name}, {fileSize(size)} · {by}, {moment(at, timeZone)}
                </span>
                {number === thing.version ? (
                  <span>{t("list.holdsNow")}</span>
                ) : (
                  <Button
                    disabled={restoring.isLoading}
                    onClick={() => void restore({ id: thing.id, version: number })}
                  >
                    {t("list.restore")}
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <FaultLine error={restoring.error} />
        </section>
      )}
    </div>
  );
}
