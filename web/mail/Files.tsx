import { Paperclip, X } from "lucide-react";
import { useRef } from "react";
import type { DraftFile } from "@amigo/contract/drafts";
import { Button } from "../ui/Button";
import { t } from "../texts/t";
import { fileSize } from "../ui/fileSize";

/** The files that go with a mail. They come by the button, by drop, or by paste into the text. */
export function Files({
  id,
  files,
  isAdding,
  onAdd,
  onDrop,
}: {
  id: string;
  files: readonly DraftFile[];
  isAdding: boolean;
  onAdd: (files: File[]) => void;
  onDrop: (file: string) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div
      className="flex flex-wrap items-center gap-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        onAdd([...event.dataTransfer.files]);
      }}
    >
      <Button onClick={() => input.current?.click()}>
        <Paperclip size={14} aria-hidden="true" />
        {isAdding ? t("mail.adding") : t("mail.addFiles")}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        className="hidden"
        aria-hidden="true"
        tabIndex={-1}
        data-files=""
        onChange={(event) => {
          onAdd([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      {files.map((file) => (
        <span key={file.id} className="flex items-center gap-1.5 rounded bg-sunk py-0.5 pr-1 pl-2">
          <a
            href={`/api/drafts/${id}/files/${file.id}`}
            className="hover:underline"
            target="_blank"
            rel="noreferrer"
          >
            {file.name}
          </a>{" "}
          <span className="text-[13px] text-ink-3">{fileSize(file.size)}</span>
          <button
            type="button"
            aria-label={t("mail.takeOff", { name: file.name })}
            onClick={() => onDrop(file.id)}
            className="rounded hover:bg-panel"
          >
            <X size={14} aria-hidden="true" />
          </button>
        </span>
      ))}
      {files.length === 0 && (
        <span className="text-[13px] text-ink-3">{t("mail.orDropThemHerePictures")}</span>
      )}
    </div>
  );
}
