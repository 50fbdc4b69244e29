import { useState } from "react";
import type { SourceLine } from "@amigo/contract/sources";
import { useLookMutation, useNewAddressMutation } from "../data/sources";
import { Button } from "../ui/Button";
import { Copy } from "../ui/Copy";
import { Modal } from "../ui/Modal";
import { Empty, FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/sources";
import type { Dropped } from "./dropped";

/** What a look has fetched, as a file to be read like any other. */
export function fileOfLook({ base64, file }: { base64: string; file: string }): File {
  return new File([Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))], file);
}

/** The secret address to which a form tool posts, shown once. */
export function PostedAddress({ url }: { url: string }) {
  return (
    <div className="flex flex-col gap-2">
      <p>{t("sources.giveThisAddressToThe")}</p>
      <div className="flex items-start gap-2">
        <p className="mono min-w-0 flex-1 rounded-md border border-hair bg-sunk px-2.5 py-1.5 break-all select-all">
          {url}
        </p>
        <Copy text={url} />
      </div>
      <p className="text-[13px] text-ink-2">{t("sources.eachAnswerIsOneJson")}</p>
    </div>
  );
}

/** A source to which answers are posted, before its columns were looked at. */
export function PostedStart({
  source,
  onTake,
}: {
  source: SourceLine;
  onTake: (file: File, from: Omit<Dropped, "key" | "file">) => void;
}) {
  const [look, looking] = useLookMutation();
  const open = async (): Promise<void> => {
    const answer = await look({ kind: "posted", location: source.id });
    if (answer.data !== undefined)
      onTake(fileOfLook(answer.data), { kind: "posted", location: source.id, writtenAt: "" });
  };
  return (
    <Panel>
      <Empty
        title={
          source.posted === 0
            ? t("sources.noAnswerHasComeYet")
            : t("sources.answersToLookAt", { posted: source.posted })
        }
      >
        <p>
          {source.posted === 0 ? t("sources.sendOneFromTheForm") : t("sources.lookAtWhatEachField")}
        </p>
        <div className="mt-3 flex justify-center gap-2">
          {source.posted > 0 && (
            <Button look="go" disabled={looking.isLoading} onClick={() => void open()}>
              {t("sources.lookAt", { posted: source.posted })}
            </Button>
          )}
          <NewAddress source={source} />
        </div>
        <FaultLine error={looking.error} />
      </Empty>
    </Panel>
  );
}

/** Gives a source another address, for when the old one got into the wrong hands or was lost. */
export function NewAddress({ source }: { source: SourceLine }) {
  const [make, making] = useNewAddressMutation();
  const [shown, setShown] = useState(false);
  return (
    <>
      <Button onClick={() => setShown(true)}>{t("sources.newAddress")}</Button>
      {shown && (
        <Modal
          title={t("sources.aNewAddressFor", { name: source.name })}
          onClose={() => setShown(false)}
        >
          {making.data === undefined ? (
            <p>{t("sources.fromTheMomentThereIs")}</p>
          ) : (
            <PostedAddress url={making.data.url} />
          )}
          <FaultLine error={making.error} />
          <div className="mt-3 flex justify-end gap-2">
            <Button onClick={() => setShown(false)}>{t("sources.close")}</Button>
            {making.data === undefined && (
              <Button look="go" disabled={making.isLoading} onClick={() => void make(source.id)}>
                {t("sources.makeANewAddress")}
              </Button>
            )}
          </div>
        </Modal>
      )}
    </>
  );
}
