import { useState } from "react";
import type { MemberLists } from "@amigo/contract/member";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useWrongMutation } from "../data/member";
import { Rich, t } from "../texts/member";
import { Button } from "../ui/Button";
import { Panel, FaultLine } from "../ui/Page";

export function Children({ own: item }: { own: MemberLists }) {
  const [about, setAbout] = useState<string>();
  if (item.children.length === 0) return null;
  return (
    <section aria-label={t("member.yourDetails")}>
      <h2 className="mb-2">{t("member.yourDetails")}</h2>
      <Panel>
        <ul>
          {item.children.map(({ name, classes }) => (
            <li
              key={name}
              className="flex flex-wrap items-center gap-3 border-b border-hair-soft px-4 py-2.5 last:border-b-0"
            >
              <span className="min-w-40 flex-1">
                <b className="font-[620]">{name}</b>
                <span className="block text-[13px] text-ink-2">
                  {classes.length === 0 ? t("member.inNoClass") : say(each(classes))}
                </span>
              </span>
              <Button
                look="quiet"
                onClick={() => setAbout(`${name}, ${say(each(classes)) || t("member.noClass")}`)}
              >
                <Rich id="member.reportAMistake" name={<span className="sr-only">: {name}</span>} />
              </Button>
            </li>
          ))}
        </ul>
      </Panel>
      {about !== undefined && <Wrong about={about} onClose={() => setAbout(undefined)} />}
    </section>
  );
}

function Wrong({ about, onClose }: { about: string; onClose: () => void }) {
  const [text, setText] = useState("");
  const [tell, { error, isLoading, isSuccess }] = useWrongMutation();
  if (isSuccess)
    return (
      <Panel className="mt-2 px-4 py-3">
        <p role="status">
          {t("member.thankYouTheOfficeHas")}{" "}
          <Button className="ms-2" onClick={onClose}>
            {t("member.good")}
          </Button>
        </p>
      </Panel>
    );
  return (
    <Panel className="mt-2 px-4 py-3">
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void tell({ about, text });
        }}
      >
        <label className="text-[13px] font-[560]">
          {t("member.whatIsWrongAbout", { about })}
          <textarea
            rows={3}
            autoFocus
            value={text}
            maxLength={2000}
            onChange={(event) => setText(event.target.value)}
            className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal"
          />
        </label>
        <FaultLine error={error} />
        <div className="flex gap-2">
          <Button look="go" type="submit" disabled={text.trim().length < 3 || isLoading}>
            {t("member.tellTheOffice")}
          </Button>
          <Button onClick={onClose}>{t("member.cancel")}</Button>
        </div>
      </form>
    </Panel>
  );
}
