import { useEffect, useRef, useState } from "react";
import { useShelveMutation } from "../data/drafts";
import { useSendFiles } from "../data/uploads";
import { SendingFile } from "../shelf/SendingFile";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { fileSize } from "../ui/fileSize";
import { FaultLine } from "../ui/Page";
import type { OwnDraft } from "./useDraft";

/** From which size on files are better put on a shelf than attached, in octets. */
const OFFERED = 2 * 1024 * 1024;

interface OnShelf {
  title: string;
  link: string;
}

/** Offers to put the files of a mail on the shelf of its lists instead of attaching them: everybody's copy then has links. */
export function ShelfOffer({
  draft,
  large,
  forgetLarge,
}: {
  draft: OwnDraft;
  /** Files that no mail can carry. */
  large: readonly File[];
  forgetLarge: (file: File) => void;
}) {
  const { id, content, change, files, setFiles, keep } = draft;
  const [shelve] = useShelveMutation();
  const [error, setError] = useState<unknown>();
  const attached = files.filter(({ cid }) => cid === "");
  // Files come one after the other, and each adds to the text as it is then.
  const html = useRef(content.html);
  useEffect(() => {
    html.current = content.html;
  });
  const link = (things: readonly OnShelf[]): void => {
    html.current += things.map(paragraphOf).join("");
    change({ html: html.current });
  };
  const sending = useSendFiles("account", async (file, upload) => {
    if (upload === undefined) return {};
    const answer = await shelve({ id, uploads: [{ id: upload, name: file.name }] });
    if (answer.data !== undefined) {
      link(answer.data.things);
      forgetLarge(file);
      // The page may have been left meanwhile; the link belongs to the draft all the same.
      await keep();
    }
    return answer;
  });
  const size = [...attached, ...large].reduce((sum, file) => sum + file.size, 0);
  if (size < OFFERED && sending.underWay === undefined) return null;
  const lists = [...content.to, ...content.cc, ...content.bcc].filter(
    ({ kind }) => kind === "list" || kind === "private",
  );
  const put = async (): Promise<void> => {
    change({});
    if (!(await keep())) return;
    if (attached.length > 0) {
      const answer = await shelve({ id, files: attached.map((file) => file.id) });
      setError(answer.error);
      if (answer.data === undefined) return;
      setFiles((before) => before.filter(({ cid }) => cid !== ""));
      link(answer.data.things);
    }
    await sending.sendAll(large);
  };
  return (
    <div className="rounded-md border border-hair bg-mist px-3 py-2">
      <p>
        {large.length > 0
          ? t("mail.tooLargeToAttach", { files: large.map(({ name }) => name).join(", ") })
          : t("mail.largeForMail", { size: fileSize(size) })}{" "}
        {t("mail.onTheShelfInstead")}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={lists.length === 0 || sending.isSending} onClick={() => void put()}>
          {lists.length === 0
            ? t("mail.addressAListFirst")
            : t("mail.putOnTheShelf", { list: lists.map(({ name }) => name).join(", ") })}
        </Button>
        {large.map((file) => (
          <Button key={file.name} look="quiet" onClick={() => forgetLarge(file)}>
            {t("mail.leaveOut", { name: file.name })}
          </Button>
        ))}
      </div>
      {sending.underWay !== undefined && <SendingFile file={sending.underWay} />}
      <FaultLine error={error ?? sending.error} />
    </div>
  );
}

/** A paragraph of the mail's text with a link to what is on the shelf. */
function paragraphOf({ title, link }: OnShelf): string {
  const anchor = document.createElement("a");
  anchor.href = link;
  anchor.textContent = title;
  return `<p>${anchor.outerHTML}</p>`;
}
