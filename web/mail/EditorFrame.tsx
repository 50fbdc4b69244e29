import { type Editor as TextEditor, useEditorState, EditorContent } from "@tiptap/react";
import {
  Bold,
  Italic,
  Heading2,
  List,
  ListOrdered,
  Quote,
  Link2,
  Image as Picture,
} from "lucide-react";
import {
  useState,
  type ReactNode,
  type RefObject,
  type Dispatch,
  type SetStateAction,
} from "react";
import { MERGE_FIELDS } from "@amigo/core/mail/merge";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

function Bar({ editor, onPicture }: { editor: TextEditor; onPicture: () => void }) {
  const [linking, setLinking] = useState<string>();
  const is = useEditorState({
    editor,
    selector: ({ editor: changed }) => ({
      bold: changed.isActive("bold"),
      italic: changed.isActive("italic"),
      heading: changed.isActive("heading"),
      bullet: changed.isActive("bulletList"),
      ordered: changed.isActive("orderedList"),
      quote: changed.isActive("blockquote"),
      link: changed.isActive("link"),
    }),
  });
  const link = (): void => {
    const href = (linking ?? "").trim();
    if (href === "") editor.chain().focus().extendMarkRange("link").unsetLink().run();
    else if (editor.state.selection.empty && !is.link)
      editor
        .chain()
        .focus()
        .insertContent([
          {
            type: "text",
            text: href,
            marks: [{ type: "link", attrs: { href: withScheme(href) } }],
          },
        ])
        .run();
    else
      editor
        .chain()
        .focus()
        .extendMarkRange("link")
        .setLink({ href: withScheme(href) })
        .run();
    setLinking(undefined);
  };
  return (
    <div
      role="toolbar"
      aria-label={t("mail.howTheTextLooks")}
      className="flex flex-wrap items-center gap-0.5 border-t border-hair-soft px-1.5 py-1"
    >
      <Tool
        name={t("mail.bold")}
        on={is.bold}
        onClick={() => editor.chain().focus().toggleBold().run()}
      >
        <Bold size={15} />
      </Tool>
      <Tool
        name={t("mail.italic")}
        on={is.italic}
        onClick={() => editor.chain().focus().toggleItalic().run()}
      >
        <Italic size={15} />
      </Tool>
      <Tool
        name={t("mail.heading")}
        on={is.heading}
        onClick={() => editor.chain().focus().toggleHeading({ level: 2 }).run()}
      >
        <Heading2 size={15} />
      </Tool>
      <Tool
        name={t("mail.bullets")}
        on={is.bullet}
        onClick={() => editor.chain().focus().toggleBulletList().run()}
      >
        <List size={15} />
      </Tool>
      <Tool
        name={t("mail.numbers")}
        on={is.ordered}
        onClick={() => editor.chain().focus().toggleOrderedList().run()}
      >
        <ListOrdered size={15} />
      </Tool>
      <Tool
        name={t("mail.quote")}
        on={is.quote}
        onClick={() => editor.chain().focus().toggleBlockquote().run()}
      >
        <Quote size={15} />
      </Tool>
      <Tool
        name={t("mail.link")}
        on={is.link}
        onClick={() => setLinking(String(editor.getAttributes("link").href ?? ""))}
      >
        <Link2 size={15} />
      </Tool>
      <Tool name={t("mail.picture")} on={false} onClick={onPicture}>
        <Picture size={15} />
      </Tool>
      <MergeFields editor={editor} />
      {linking !== undefined && (
        <LinkForm link={link} linking={linking} setLinking={setLinking} editor={editor} />
      )}
    </div>
  );
}

function Tool({
  name,
  on,
  onClick,
  children,
}: {
  name: string;
  on: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      title={name}
      aria-label={name}
      aria-pressed={on}
      onClick={onClick}
      className={`rounded p-1.5 ${on ? "bg-petrol-soft text-petrol" : "text-ink-2 hover:bg-sunk"}`}
    >
      {children}
    </button>
  );
}

function withScheme(href: string): string {
  return /^(https?:|mailto:|tel:)/i.test(href)
    ? href
    : href.includes("@") && !href.includes("/")
      ? t("mail.mailto", { href })
      : `https://${href}`;
}

export function EditorFrame({
  editor,
  input,
  take,
}: {
  editor: TextEditor;
  input: RefObject<HTMLInputElement | null>;
  take: (files: FileList | null | undefined) => boolean;
}) {
  return (
    <div className="rounded-md border border-hair bg-panel focus-within:border-petrol">
      <EditorContent editor={editor} />
      {editor !== null && <Bar editor={editor} onPicture={() => input.current?.click()} />}
      <input
        ref={input}
        type="file"
        accept="image/png,image/jpeg,image/gif,image/webp"
        multiple
        className="hidden"
        aria-hidden="true"
        tabIndex={-1}
        data-pictures=""
        onChange={(event) => {
          take(event.target.files);
          event.target.value = "";
        }}
      />
    </div>
  );
}

function MergeFields({ editor }: { editor: TextEditor }) {
  return (
    <span className="ml-auto">
      <Choice
        small
        label={t("mail.fillInForEach")}
        value=""
        onChange={(field) => {
          if (field !== "") editor.chain().focus().insertContent(`{${field}}`).run();
        }}
        options={[
          { value: "", name: t("mail.fillInForEach2") },
          ...MERGE_FIELDS.map((field) => ({ value: field as string, name: `{${field}}` })),
        ]}
      />
    </span>
  );
}

function LinkForm({
  link,
  linking,
  setLinking,
  editor,
}: {
  link: () => void;
  linking: string;
  setLinking: Dispatch<SetStateAction<string | undefined>>;
  editor: TextEditor;
}) {
  return (
    <form
      className="flex w-full items-center gap-2 px-1 pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        link();
      }}
    >
      <input
        autoFocus
        aria-label={t("mail.whereTheLinkLeads")}
        placeholder={t("mail.https")}
        value={linking}
        onChange={(event) => setLinking(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") {
            setLinking(undefined);
            editor.commands.focus();
          }
        }}
        className="h-[28px] flex-1 rounded-md border border-hair bg-panel px-2"
      />
      <Button type="submit">{linking.trim() === "" ? t("mail.noLink") : t("mail.link")}</Button>
    </form>
  );
}
