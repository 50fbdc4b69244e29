import { useState, type FormEvent } from "react";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { moment } from "../ui/time";
import { useMe } from "../data/me";
import { useLookMutation, useWatchedQuery } from "../data/sources";
import type { Dropped } from "./SourcesPage";

/** Adds a place from which a sheet is fetched again and again: a web address, or a file in the watched folder. It is looked at first, like any other sheet. */
export function AddPlace({ onClose, onTake }: { onClose: () => void; onTake: (file: File, from: Omit<Dropped, "key" | "file">) => void }) {
  const me = useMe();
  const { data: watched } = useWatchedQuery();
  const [kind, setKind] = useState<"web" | "watched">("web");
  const [address, setAddress] = useState("");
  const [file, setFile] = useState("");
  const [look, looking] = useLookMutation();
  const location = kind === "web" ? address.trim() : file;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await look({ kind, location });
    if (answer.data === undefined) return;
    const bytes = Uint8Array.from(atob(answer.data.base64), (letter) => letter.charCodeAt(0));
    onTake(new File([bytes], answer.data.file), { kind, location, writtenAt: answer.data.writtenAt });
    onClose();
  };
  return (
    <Modal title="Add a place" onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p className="text-ink-2">A sheet that Amigo fetches by itself, as often as you say. You look at it first; when it is read next is set beside its sheet.</p>
        {watched != null && <Choice label="Where it is" value={kind} onChange={setKind} options={[{ value: "web", name: "At a web address" }, { value: "watched", name: "In the watched folder" }]} className="justify-between" />}
        {kind === "web" && <Field autoFocus label="Web address" help="A link to CSV, XLSX or ODS that needs no sign-in. Addresses inside the own network are refused." placeholder="https://" value={address} onChange={(event) => setAddress(event.target.value)} />}
        {kind === "watched" && watched != null && (watched.files.length === 0 ? <p>There is no sheet in the watched folder yet.</p> : <Choice label="File" value={file} onChange={setFile} options={watched.files.map(({ name, writtenAt }) => ({ value: name, name: `${name}, written ${moment(writtenAt, me.timeZone)}` }))} className="justify-between" />)}
        <FaultLine error={looking.error} />
        <div className="flex justify-end gap-2"><Button onClick={onClose}>Close</Button><Button type="submit" look="go" disabled={location === "" || looking.isLoading}>{looking.isLoading ? "Fetching …" : "Look at it"}</Button></div>
      </form>
    </Modal>
  );
}
