import { useState, type FormEvent } from "react";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { moment } from "../ui/time";
import { useMe } from "../data/me";
import { useLookMutation, useMakePostedMutation, useWatchedQuery } from "../data/sources";
import { fileOfLook, PostedAddress } from "./Posted";
import type { Dropped } from "./SourcesPage";

/** Adds a place from which a sheet is fetched again and again: a web address, or a file in the watched folder. It is looked at first, like any other sheet. */
export function AddPlace({
  onClose,
  onTake,
}: {
  onClose: () => void;
  onTake: (file: File, from: Omit<Dropped, "key" | "file">) => void;
}) {
  const me = useMe();
  const { data: watched } = useWatchedQuery();
  const [kind, setKind] = useState<"web" | "watched" | "posted">("web");
  const [address, setAddress] = useState("");
  const [file, setFile] = useState("");
  const [look, looking] = useLookMutation();
  const [name, setName] = useState("");
  const [makePosted, making] = useMakePostedMutation();
  const location = kind === "web" ? address.trim() : file;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (kind === "posted") {
      await makePosted(name);
      return;
    }
    const answer = await look({ kind, location });
    if (answer.data === undefined) return;
    onTake(fileOfLook(answer.data), { kind, location, writtenAt: answer.data.writtenAt });
    onClose();
  };
  if (making.data !== undefined)
    return (
      <Modal title="Where the form tool posts to" onClose={onClose}>
        <PostedAddress url={making.data.url} />
        <div className="mt-3 flex justify-end">
          <Button look="go" autoFocus onClick={onClose}>
            I have it
          </Button>
        </div>
      </Modal>
    );
  return (
    <Modal title="Connect a file or web address" onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p className="text-ink-2">
          A sheet that Amigo fetches by itself, as often as you choose. You check it first, then set
          the times.
        </p>
        <Choice
          label="Where it is"
          value={kind}
          onChange={setKind}
          options={[
            { value: "web", name: "At a web address" },
            ...(watched == null
              ? []
              : [{ value: "watched" as const, name: "In the watched folder" }]),
            { value: "posted", name: "A form tool posts its answers here" },
          ]}
          className="justify-between"
        />
        {kind === "posted" && (
          <Field
            label="Name"
            help="Amigo makes an address of its own for it. The form tool posts each answer there, as JSON or form data."
            placeholder="Answers of the enrolment form"
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
        {kind === "web" && (
          <Field
            autoFocus
            label="Web address"
            help="A link to CSV, XLSX or ODS that needs no sign-in. Addresses inside the own network are refused."
            placeholder="https://"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
        )}
        {kind === "watched" &&
          watched != null &&
          (watched.files.length === 0 ? (
            <p>The watched folder has no sheets yet.</p>
          ) : (
            <Choice
              label="File"
              value={file}
              onChange={setFile}
              options={watched.files.map(({ name, writtenAt }) => ({
                value: name,
                name: `${name}, written ${moment(writtenAt, me.timeZone)}`,
              }))}
              className="justify-between"
            />
          ))}
        <FaultLine error={kind === "posted" ? making.error : looking.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button
            type="submit"
            look="go"
            disabled={
              (kind === "posted" ? name.trim() === "" : location === "") ||
              looking.isLoading ||
              making.isLoading
            }
          >
            {kind === "posted"
              ? "Make its address"
              : looking.isLoading
                ? "Fetching …"
                : "Look at it"}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
