import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { ChevronDown, X } from "lucide-react";
import { useState, type Dispatch, type SetStateAction } from "react";
import type { DraftContent, Template } from "@amigo/contract/drafts";
import {
  useDropTemplateMutation,
  useKeepTemplateMutation,
  useTemplatesQuery,
} from "../data/drafts";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";
import { t } from "../texts/mail";
import type { Me } from "@amigo/contract/accounts";

/** Texts to begin a mail with: to take one, or to keep what is written as one. */
export function Templates({
  content,
  onTake,
}: {
  content: DraftContent;
  onTake: (template: Template) => void;
}) {
  const me = useMe();
  const { data: templates = [] } = useTemplatesQuery();
  const [keep, keeping] = useKeepTemplateMutation();
  const [drop] = useDropTemplateMutation();
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  return (
    <Popover>
      <PopoverButton className="inline-flex min-h-[30px] items-center gap-1.5 rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol">
        {t("mail.templates")}
        <ChevronDown size={14} aria-hidden="true" />
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom end", gap: 4 }}
        className="z-30 w-[min(24rem,92vw)] rounded-md border border-hair bg-panel p-3 shadow-lg"
      >
        {({ close }) => (
          <div className="flex flex-col gap-2.5">
            {templates.length === 0 ? (
              <p className="text-ink-2">{t("mail.noneYetWriteAMail")}</p>
            ) : (
              <ul>
                {templates.map((template) => (
                  <li key={template.id} className="flex items-center gap-2">
                    <button
                      type="button"
                      className="min-w-0 flex-1 truncate rounded px-2 py-1 text-left hover:bg-petrol-soft"
                      onClick={() => {
                        onTake(template);
                        close();
                      }}
                    >
                      <b className="font-[620]">{template.name}</b>{" "}
                      <span className="text-[13px] text-ink-2">{template.subject}</span>
                    </button>
                    {template.shared && (
                      <span className="text-[12px] text-ink-3">{t("mail.ofTheHouse")}</span>
                    )}
                    {template.mine && (
                      <button
                        type="button"
                        aria-label={t("mail.deleteTheTemplate", { name: template.name })}
                        onClick={() => void drop(template.id)}
                        className="rounded p-1 hover:bg-sunk"
                      >
                        <X size={14} aria-hidden="true" />
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            )}
            <TemplateForm
              keep={keep}
              name={name}
              content={content}
              shared={shared}
              setName={setName}
              keeping={keeping}
              me={me}
              setShared={setShared}
            />
          </div>
        )}
      </PopoverPanel>
    </Popover>
  );
}

function TemplateForm({
  keep,
  name,
  content,
  shared,
  setName,
  keeping,
  me,
  setShared,
}: {
  keep: ReturnType<typeof useKeepTemplateMutation>[0];
  name: string;
  content: DraftContent;
  shared: boolean;
  setName: Dispatch<SetStateAction<string>>;
  keeping: ReturnType<typeof useKeepTemplateMutation>[1];
  me: Me;
  setShared: Dispatch<SetStateAction<boolean>>;
}) {
  return (
    <form
      className="flex flex-col gap-1.5 border-t border-hair-soft pt-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void keep({ name, subject: content.subject, html: content.html, shared }).then(
          ({ data }) => {
            if (data !== undefined) setName("");
          },
        );
      }}
    >
      <div className="flex gap-2">
        <input
          aria-label={t("mail.nameOfTheTemplate")}
          placeholder={t("mail.saveAsTemplate")}
          value={name}
          onChange={(event) => setName(event.target.value)}
          maxLength={80}
          className="h-[30px] min-w-0 flex-1 rounded-md border border-hair bg-panel px-2.5"
        />
        <Button
          type="submit"
          disabled={name.trim() === "" || content.html === "" || keeping.isLoading}
        >
          {t("mail.save")}
        </Button>
      </div>
      {me.role === "coordinator" && (
        <label className="flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"

            checked={shared}
            onChange={(event) => setShared(event.target.checked)}
          />
          {t("mail.forEverybodyWhoWrites")}
        </label>
      )}
      <FaultLine error={keeping.error} />
    </form>
  );
}
