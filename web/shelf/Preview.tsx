import type { ShownAs } from "@amigo/core/shelf/fileType";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";

/** Shows a file in the page, as the browser itself shows pictures, pages, text, sound and film. */
export function Preview({
  title,
  path,
  shownAs,
  onClose,
}: {
  title: string;
  path: string;
  shownAs: Exclude<ShownAs, "">;
  onClose: () => void;
}) {
  return (
    <Modal title={title} wide onClose={onClose}>
      <Shown title={title} path={path} shownAs={shownAs} />
      <div className="mt-3 flex flex-wrap items-center justify-between gap-2">
        <a
          href={path}
          target="_blank"
          rel="noreferrer"
          className="text-petrol underline underline-offset-2"
        >
          {t("shelf.inAWindow")}
        </a>
        <Button onClick={onClose}>{t("ui.close")}</Button>
      </div>
    </Modal>
  );
}

function Shown({ title, path, shownAs }: { title: string; path: string; shownAs: ShownAs }) {
  switch (shownAs) {
    case "picture":
      return <img src={path} alt={title} className="mx-auto max-h-[70dvh] max-w-full" />;
    case "sound":
      return <audio controls src={path} aria-label={title} className="w-full" />;
    case "film":
      return <video controls src={path} aria-label={title} className="max-h-[70dvh] w-full" />;
    default:
      return (
        <iframe
          src={path}
          title={title}
          className="h-[70dvh] w-full rounded border border-hair bg-white"
        />
      );
  }
}
