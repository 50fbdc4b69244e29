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
import { t } from "../texts/sources";
import type { Dropped } from "./dropped";

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
      <Modal title={t("sources.whereTheFormToolPosts")} onClose={onClose}>
        <PostedAddress url={making.data.url} />
        <div className="mt-3 flex justify-end">
          <Button look="go" autoFocus onClick={onClose}>
            {t("sources.iHaveIt")}
          </Button>
        </div>
      </Modal>
    );
  return (
    <Modal title={t("sources.connectAFileOrWeb")} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p className="text-ink-2">{t("sources.aSheetThatAmigoFetches")}</p>
        <Choice
          label={t("sources.whereItIs")}
          value={kind}
          onChange={setKind}
          options={[
            { value: "web", name: t("sources.atAWebAddress") },
            ...(watched == null
              ? []
              : [{ value: "watched" as const, name: t("sources.inTheWatchedFolder") }]),
            { value: "posted", name: t("sources.aFormToolPostsIts") },
          ]}
          className="justify-between"
        />
        {kind === "posted" && (
          <Field
            label={t("sources.name")}
            help={t("sources.amigoMakesAnAddressOf")}
            placeholder={t("sources.answersOfTheEnrolmentForm")}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
        {kind === "web" && (
          <Field
            autoFocus
            label={t("sources.webAddress")}
            help={t("sources.aLinkToCsvXlsx")}
            placeholder={t("sources.https")}
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
        )}
        {kind === "watched" &&
          watched != null &&
          (watched.files.length === 0 ? (
            <p>{t("sources.theWatchedFolderHasNo")}</p>
          ) : (
            <Choice
              label={t("sources.file")}
              value={file}
              onChange={setFile}
              options={watched.files.map(({ name, writtenAt }) => ({
                value: name,
                name: t("sources.written", { name, when: moment(writtenAt, me.timeZone) }),
              }))}
              className="justify-between"
            />
          ))}
        <FaultLine error={kind === "posted" ? making.error : looking.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("sources.close")}</Button>
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
              ? t("sources.makeItsAddress")
              : looking.isLoading
                ? t("sources.fetching")
                : t("sources.lookAtIt")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
