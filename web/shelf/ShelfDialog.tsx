import { useState } from "react";
import type { ShelfThing } from "@amigo/contract/shelf";
import { fileType } from "@amigo/core/shelf/fileType";
import { usePutVersionMutation, useTakeOffMutation } from "../data/shelf";
import { useSendFiles } from "../data/uploads";
import { PickFile } from "./PickFile";
import { Preview } from "./Preview";
import { SendingFile } from "./SendingFile";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import type { ShelfOf } from "./shelfOf";
import { ThingDetails } from "./ThingDetails";
import { ThingForm } from "./ThingForm";

/** One thing on the shelf: what it is called, until when it is open, who has opened it, and its versions. */
export function ShelfDialog({
  list,
  thing,
  onClose,
}: {
  list: ShelfOf;
  thing: ShelfThing;
  onClose: () => void;
}) {
  const [takeOff, taking] = useTakeOffMutation();
  const [isShown, setShown] = useState(false);
  const path = thing.kind === "link" ? thing.link : `/api/shelf/${thing.id}/files/${thing.version}`;
  const shownAs = thing.kind === "link" ? "" : fileType(thing.name).shownAs;
  return (
    <Modal title={thing.title} onClose={onClose} wide>
      <ThingForm list={list} thing={thing} onDone={onClose} />
      <ThingDetails thing={thing} />
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
          {t("shelf.takeOffTheShelf")}
        </Button>
        {thing.kind === "file" && <NewVersion thing={thing} />}
        {shownAs === "" ? (
          <a
            href={path}
            target="_blank"
            rel="noreferrer"
            className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
          >
            {t("shelf.open")}
          </a>
        ) : (
          <Button onClick={() => setShown(true)}>{t("shelf.open")}</Button>
        )}
        <Button onClick={onClose}>{t("shelf.closeDialog")}</Button>
      </div>
      {isShown && shownAs !== "" && (
        <Preview
          title={thing.title}
          path={path}
          shownAs={shownAs}
          onClose={() => setShown(false)}
        />
      )}
    </Modal>
  );
}

function NewVersion({ thing }: { thing: ShelfThing }) {
  const [put, { data }] = usePutVersionMutation();
  const { sendAll, underWay, error, isSending } = useSendFiles("account", (file, upload) =>
    put({ id: thing.id, version: thing.version, file, upload }),
  );
  return (
    <>
      <PickFile
        label={t("shelf.newVersion")}
        disabled={isSending}
        onPick={(file) => void sendAll([file])}
      />
      {underWay !== undefined && <SendingFile file={underWay} />}
      <FaultLine error={error} />
      {data?.besideAnother === true && <p role="alert">{t("shelf.anotherVersionToo")}</p>}
    </>
  );
}
