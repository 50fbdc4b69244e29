import { useState } from "react";
import { usePutLinkMutation } from "../data/shelf";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";

/** Puts a link to something that is kept elsewhere on the shelf. */
export function AddLink({
  list,
  onClose,
  onAdded,
}: {
  list: string;
  onClose: () => void;
  onAdded: (id: string) => void;
}) {
  const [title, setTitle] = useState("");
  const [link, setLink] = useState("");
  const [put, { error, isLoading }] = usePutLinkMutation();
  return (
    <Modal title={t("shelf.addALink")} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void put({ list, title, link }).then(({ data }) => {
            if (data === undefined) return;
            onAdded(data.id);
            onClose();
          });
        }}
      >
        <Field
          label={t("shelf.title")}
          required
          maxLength={200}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
        />
        <Field
          label={t("shelf.webAddress")}
          type="url"
          required
          maxLength={1000}
          help={t("shelf.linkHelp")}
          value={link}
          onChange={(event) => setLink(event.target.value)}
        />
        <FaultLine error={error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("shelf.cancel")}</Button>
          <Button type="submit" look="go" disabled={isLoading || title.trim() === ""}>
            {t("shelf.putOnTheShelf")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
