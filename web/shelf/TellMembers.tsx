import { useState } from "react";
import type { ShelfThing } from "@amigo/contract/shelf";
import { useTellMembersMutation } from "../data/shelf";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FaultLine } from "../ui/Page";
import type { ShelfOf } from "./shelfOf";

type When = "at once" | "next digest";

/** Tells the members of what is new on the shelf by a mail with links, where whoever put it there wants that. */
export function TellMembers({
  list,
  things,
  onDone,
}: {
  list: ShelfOf;
  things: readonly ShelfThing[];
  onDone: () => void;
}) {
  const [text, setText] = useState("");
  const [when, setWhen] = useState<When>("at once");
  const [key] = useState(() => crypto.randomUUID());
  const [tell, { data, error, isLoading }] = useTellMembersMutation();
  if (data !== undefined)
    return (
      <p role="status" className="rounded-md border border-leaf bg-leaf-soft px-3 py-2">
        {data.outcome === "held"
          ? t("shelf.noticeIsHeld")
          : when === "next digest"
            ? t("shelf.noticeWaits", { addresses: data.addresses })
            : t("shelf.noticeSent", { addresses: data.addresses })}
      </p>
    );
  return (
    <form
      aria-label={t("shelf.tellTheMembers")}
      className="rounded-lg border border-hair p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void tell({ list: list.id, things: things.map(({ id }) => id), text, when, key });
      }}
    >
      <p>{t("shelf.isNewTell", { count: things.length, title: things[0]?.title ?? "" })}</p>
      <label className="mt-2 block text-[13px] font-[560]">
        {t("shelf.aFewWords")}
        <textarea
          rows={2}
          maxLength={2000}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal"
        />
      </label>
      <FaultLine error={error} />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {!list.isPrivate && (
          <Choice
            label={t("shelf.whenTold")}
            value={when}
            options={[
              { value: "at once", name: t("shelf.toldAtOnce") },
              { value: "next digest", name: t("shelf.toldInDigest") },
            ]}
            onChange={setWhen}
          />
        )}
        <Button type="submit" look="go" disabled={isLoading}>
          {t("shelf.tellAddresses", { addresses: list.members })}
        </Button>
        <Button onClick={onDone}>{t("shelf.tellNobody")}</Button>
      </div>
    </form>
  );
}
