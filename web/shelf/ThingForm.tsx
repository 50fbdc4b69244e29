import { useState } from "react";
import type { ShelfThing } from "@amigo/contract/shelf";
import { MEMBERS_MAY, type MembersMay } from "@amigo/core/shelf/membersMay";
import { useAllListsQuery } from "../data/lists";
import { useMe } from "../data/me";
import { usePrivateListsQuery } from "../data/private";
import { useChangeThingMutation } from "../data/shelf";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";
import { FaultLine } from "../ui/Page";
import { today } from "../ui/time";
import type { ShelfOf } from "./shelfOf";

/** What a thing is called, until when it is open, what members may do with it, and on which shelves it is. */
export function ThingForm({
  list,
  thing,
  onDone,
}: {
  list: ShelfOf;
  thing: ShelfThing;
  onDone: () => void;
}) {
  const me = useMe();
  const [title, setTitle] = useState(thing.title);
  const [folder, setFolder] = useState(thing.folder);
  const [untilDay, setUntilDay] = useState(thing.untilDay);
  const [membersMay, setMembersMay] = useState<MembersMay>(thing.membersMay);
  const [others, setOthers] = useState(thing.others);
  // What was there when the form was opened: what somebody else changes meanwhile is not overwritten unseen.
  const [changes] = useState(thing.changes);
  const { data: all } = useAllListsQuery("");
  const [change, { error, isLoading }] = useChangeThingMutation();
  const { data: privately = [] } = usePrivateListsQuery();
  const free = [
    ...(all?.lists ?? []).filter(({ state }) => state === "open"),
    ...privately.map(({ id, name }) => ({ id, title: t("shelf.privateList", { name }) })),
  ].filter(({ id }) => id !== list.id && !others.some((one) => one.id === id));
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void change({
          id: thing.id,
          ...{ title, folder, untilDay, membersMay },
          lists: [list.id, ...others.map(({ id }) => id)],
          changes,
        }).then((answer) => {
          if (answer.error === undefined) onDone();
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
      <div className="grid items-start gap-3 md:grid-cols-2">
        <DayField
          label={t("shelf.openUntil")}
          help={t("shelf.openUntilHelp")}
          min={today(me.timeZone)}
          value={untilDay}
          onChange={setUntilDay}
        />
        <Field
          label={t("shelf.folder")}
          maxLength={100}
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-[13px] font-[560]">{t("shelf.membersMay")}</span>
        <Choice
          label={t("shelf.membersMay")}
          small
          value={membersMay}
          options={MEMBERS_MAY.filter((what) => thing.kind === "file" || what !== "change").map(
            (what) => ({ value: what, name: t("shelf.mayWhat", { what }) }),
          )}
          onChange={setMembersMay}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-[13px] font-[560]">{t("shelf.alsoOnTheShelfOf")}</span>
        {others.map(({ id, title: name }) => (
          <span key={id} className="flex items-center gap-1.5 rounded bg-sunk py-0.5 pr-1 pl-2">
            {name}
            <button
              type="button"
              aria-label={t("shelf.removeShelf", { name })}
              onClick={() => setOthers(others.filter((one) => one.id !== id))}
              className="rounded px-1 hover:bg-panel"
            >
              ×
            </button>
          </span>
        ))}
        <Choice
          label={t("shelf.anotherList")}
          small
          value=""
          options={[
            { value: "", name: t("shelf.anotherList") },
            ...free.map(({ id, title: name }) => ({ value: id, name })),
          ]}
          onChange={(id) => {
            const found = free.find((one) => one.id === id);
            if (found !== undefined) setOthers([...others, { id, title: found.title }]);
          }}
        />
      </div>
      <FaultLine error={error} />
      <div>
        <Button type="submit" look="go" disabled={isLoading || title.trim() === ""}>
          {t("shelf.save")}
        </Button>
      </div>
    </form>
  );
}
