import { Paperclip, X } from "lucide-react";
import { useRef, type ReactNode } from "react";
import { t } from "../texts/ui";
import { Button } from "./Button";
import { droppedFiles, folderIn, isWanted } from "./droppedFiles";
import { fileSize } from "./fileSize";

/** A file that goes with something. */
interface FileThere {
  id: string;
  name: string;
  size: number;
}

/** Takes files, each with the folder that it came in; empty for none. */
export type AddFiles = (files: File[], folderOf: (file: File) => string) => void;

/** The files that go with a mail or a date. They come by the button or by drop; `hint` says what else there is. */
export function FilesField({
  files = [],
  pathOf,
  hint,
  isAdding,
  onAdd,
  withFolders = false,
  onDrop,
  className = "",
  children,
}: {
  files?: readonly FileThere[];
  /** Where a file is opened. */
  pathOf?: (id: string) => string;
  hint: string;
  isAdding: boolean;
  onAdd: AddFiles;
  /** Whether whole folders can be chosen. */
  withFolders?: boolean;
  onDrop?: (file: string) => void;
  className?: string;
  /** What else is in the frame onto which files can be dropped. */
  children?: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div
      className={`flex flex-wrap items-center gap-2 ${className}`}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void droppedFiles(event.dataTransfer).then((dropped) => {
          const folders = new Map(dropped.map(({ file, folder }) => [file, folder]));
          onAdd([...folders.keys()], (file) => folders.get(file) ?? "");
        });
      }}
    >
      <Button onClick={() => input.current?.click()}>
        <Paperclip size={14} aria-hidden="true" />
        {isAdding ? t("ui.addingFiles") : t("ui.addFiles")}
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
          onAdd([...(event.target.files ?? [])], () => "");
          event.target.value = "";
        }}
      />
      {withFolders && <PickFolder onAdd={onAdd} />}
      {files.map((file) => (
        <span key={file.id} className="flex items-center gap-1.5 rounded bg-sunk py-0.5 pr-1 pl-2">
          <a href={pathOf?.(file.id)} className="hover:underline" target="_blank" rel="noreferrer">
            {file.name}
          </a>{" "}
          <span className="text-[13px] text-ink-3">{fileSize(file.size)}</span>
          <button
            type="button"
            aria-label={t("ui.removeFile", { name: file.name })}
            onClick={() => onDrop?.(file.id)}
            className="rounded hover:bg-panel"
          >
            <X size={14} aria-hidden="true" />
          </button>
        </span>
      ))}
      {children}
      {files.length === 0 && <span className="text-[13px] text-ink-3">{hint}</span>}
    </div>
  );
}

function PickFolder({ onAdd }: { onAdd: AddFiles }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{t("ui.addAFolder")}</Button>
      <input
        // No standard names it, but every browser knows it.
        {...{ webkitdirectory: "" }}
        ref={input}
        type="file"
        multiple
        className="hidden"
        aria-hidden="true"
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])].filter((file) =>
            isWanted(file.webkitRelativePath),
          );
          onAdd(files, (file) => folderIn(file.webkitRelativePath));
          event.target.value = "";
        }}
      />
    </>
  );
}
