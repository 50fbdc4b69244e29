import { useState } from "react";
import { counted } from "@amigo/core/text/sentence";
import type { SourceLine } from "@amigo/contract/sources";
import { useLookMutation, useNewAddressMutation } from "../data/sources";
import { Button } from "../ui/Button";
import { Copy } from "../ui/Copy";
import { Modal } from "../ui/Modal";
import { Empty, FaultLine, Panel } from "../ui/Page";
import type { Dropped } from "./SourcesPage";

/** What a look has fetched, as a file to be read like any other. */
export function fileOfLook({ base64, file }: { base64: string; file: string }): File {
  return new File([Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))], file);
}

/** The secret address to which a form tool posts, shown once. */
export function PostedAddress({ url }: { url: string }) {
  return (
    <div className="flex flex-col gap-2">
      <p>
        Give this address to the form tool, as where each answer is to be posted (often called a
        webhook). It is shown this once: whoever has it can post answers.
      </p>
      <div className="flex items-start gap-2">
        <p className="mono min-w-0 flex-1 rounded-md border border-hair bg-sunk px-2.5 py-1.5 break-all select-all">
          {url}
        </p>
        <Copy text={url} />
      </div>
      <p className="text-[13px] text-ink-2">
        Each answer is one JSON object or a form: a name and a value for each field. From the first
        one Amigo learns which field holds what; you look at that before anything is read.
      </p>
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
            ? "No answer has come yet"
            : `${counted(source.posted, "answer")} to look at`
        }
      >
        <p>
          {source.posted === 0
            ? "Send one from the form tool. From its fields Amigo learns what each column holds."
            : "Look at what each field holds. From then on answers are read as they come."}
        </p>
        <div className="mt-3 flex justify-center gap-2">
          {source.posted > 0 && (
            <Button look="go" disabled={looking.isLoading} onClick={() => void open()}>
              Look at {source.posted === 1 ? "it" : "them"}
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
      <Button onClick={() => setShown(true)}>New address …</Button>
      {shown && (
        <Modal title={`A new address for ${source.name}`} onClose={() => setShown(false)}>
          {making.data === undefined ? (
            <p>From the moment there is a new address, the old one takes no answers any more.</p>
          ) : (
            <PostedAddress url={making.data.url} />
          )}
          <FaultLine error={making.error} />
          <div className="mt-3 flex justify-end gap-2">
            <Button onClick={() => setShown(false)}>Close</Button>
            {making.data === undefined && (
              <Button look="go" disabled={making.isLoading} onClick={() => void make(source.id)}>
                Make a new address
              </Button>
            )}
          </div>
        </Modal>
      )}
    </>
  );
}
