import { useEditor } from "@tiptap/react";
import Image from "@tiptap/extension-image";
import StarterKit from "@tiptap/starter-kit";
import { useEffect, useRef } from "react";
import { t } from "../texts/mail";
import { EditorFrame } from "./EditorFrame";

/** The text of a mail, with what mail programs can show: bold, lists, links, quotes, pictures. Files and pictures come by drop and paste. */
export function Editor({
  html,
  onChange,
  onFiles,
}: {
  html: string;
  onChange: (html: string) => void;
  onFiles: (files: readonly File[], asPictures: boolean) => Promise<readonly string[]>;
}) {
  const input = useRef<HTMLInputElement>(null);
  const latest = useRef({ onChange, onFiles });
  useEffect(() => {
    latest.current = { onChange, onFiles };
  });
  const take = (files: FileList | null | undefined): boolean => {
    const all = [...(files ?? [])];
    if (all.length === 0) return false;
    const pictures = all.filter(({ type }) => type.startsWith("image/"));
    void latest.current.onFiles(pictures, true).then((sources) => {
      for (const src of sources) editor?.chain().focus().setImage({ src, alt: "" }).run();
    });
    void latest.current.onFiles(
      all.filter((file) => !pictures.includes(file)),
      false,
    );
    return true;
  };
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [2, 3] },
        link: { openOnClick: false, defaultProtocol: "https" },
        strike: false,
        codeBlock: false,
        code: false,
      }),
      Image,
    ],
    content: html,
    injectCSS: false,
    editorProps: {
      attributes: {
        role: "textbox",
        "aria-multiline": "true",
        "aria-label": t("mail.textOfTheMail"),
        class: "mail-text min-h-56 px-3 py-2 outline-none",
      },
      handlePaste: (_view, event) => take(event.clipboardData?.files),
      handleDrop: (_view, event) => {
        const taken = take(event.dataTransfer?.files);
        if (taken) event.preventDefault();
        return taken;
      },
      // Ctrl Enter sends; it is not a line break.
      handleKeyDown: (_view, event) => event.key === "Enter" && (event.ctrlKey || event.metaKey),
    },
    onUpdate: ({ editor: changed }) =>
      latest.current.onChange(changed.isEmpty ? "" : changed.getHTML()),
  });
  // Another text from outside: a draft that was fetched, a template.
  useEffect(() => {
    if (editor !== null && (editor.isEmpty ? "" : editor.getHTML()) !== html)
      editor.commands.setContent(html, { emitUpdate: false });
  }, [editor, html]);
  return <EditorFrame editor={editor} input={input} take={take} />;
}
