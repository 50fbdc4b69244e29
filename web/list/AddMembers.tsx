import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useEffect, useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import type { Adding } from "@amigo/core/lists/recipe";
import type { ListPage } from "@amigo/contract/lists";
import { useAddMembersMutation, usePastedMutation } from "../data/lists";
import { useMe } from "../data/me";
import { AskPermission } from "../rules/AskPermission";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { PastedLines } from "./PastedLines";
import { today } from "../ui/time";
import { DayField } from "../ui/DayField";
import { Rich, t } from "../texts/list";
import type { Me } from "@amigo/contract/accounts";

const SETTLES_AFTER = 250;

/** What keeps an address off a list, in the words of the result. */
const NOT_TAKEN = [
  ["already there", "list.onItAlready"],
  ["twice", "list.pastedTwice"],
  ["outside", "list.outsideAndNotAllowed"],
  ["unusable", "list.notUsable"],
] as const;

/** A box that takes any mess of addresses and answers for each what becomes of it; added quietly, with a welcome, or by asking first. */
export function AddMembers({
  list,
  onClose,
  onDone,
}: {
  list: ListPage;
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const me = useMe();
  const [text, setText] = useState("");
  const [how, setHow] = useState<Adding>(list.adding);
  const [reason, setReason] = useState("");
  const [lastDay, setLastDay] = useState("");
  const [asking, setAsking] = useState(false);
  const [read, { data, error }] = usePastedMutation();
  const [add, adding] = useAddMembersMutation();
  useEffect(() => {
    if (text.trim() === "") return;
    const timer = setTimeout(() => void read({ id: list.id, text }), SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [text, list.id, read]);
  const told = text.trim() === "" ? undefined : data;
  const coming =
    told?.lines.filter(
      ({ outcome }) => outcome === "to add" || outcome === "repaired" || outcome === "waits",
    ) ?? [];
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await add({
      id: list.id,
      addresses: coming.map(({ address }) => address),
      how,
      reason,
      lastDay,
    });
    if (answer.data === undefined || told === undefined) return;
    const { added, asked, already, waiting } = answer.data;
    const out = told.lines.length - added - asked - waiting;
    const why = [
      already > 0 ? t("list.onItAlready2", { already }) : "",
      ...NOT_TAKEN.map(([outcome, words]) => {
        const lines = told.lines.filter((line) => line.outcome === outcome);
        return lines.length === 0
          ? ""
          : t(words, {
              count: lines.length,
              addresses: lines.map(({ address, written }) => address || written).join(", "),
            });
      }),
      told.leftOver.length === 0 ? "" : t("list.noAddress", { list: told.leftOver.join(", ") }),
    ].filter((part) => part !== "");
    onDone(
      t("list.addressesIn", {
        lines: told.lines.length,
        asked,
        added,
        waiting,
        out,
        why: say(each(why, "semicolon")),
      }),
    );
  };
  const outside = told?.lines.filter(({ outcome }) => outcome === "outside") ?? [];
  if (asking) {
    const guardians = outside.every(({ who }) => who !== "");
    return (
      <Modal title={t("list.outsideAddressesOnThisList")} onClose={() => setAsking(false)}>
        <p>
          {t("list.addressesCantJoinByIts", {
            outside: outside.length,
            title: list.title,
            list: outside
              .slice(0, 4)
              .map(({ address }) => address)
              .join(", "),
            isMore: String(outside.length > 4),
          })}
        </p>
        <AskPermission
          wanted={{
            list: list.key,
            rule: "outside",
            wanted: guardians ? "guardians" : "any",
            work: {
              members: { addresses: outside.map(({ address }) => address), how, reason, lastDay },
            },
          }}
          onAsked={onDone}
        />
        <div className="mt-3 flex justify-end">
          <Button onClick={() => setAsking(false)}>{t("list.back")}</Button>
        </div>
      </Modal>
    );
  }
  return (
    <Modal wide title={t("list.addMembersTo", { title: list.title })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <PasteField text={text} setText={setText} />
        <FaultLine error={error} />
        {told !== undefined && (
          <PastedLines
            {...told}
            onFix={(written, right) => setText((before) => before.replace(written, right))}
          />
        )}
        <AddingChoice how={how} setHow={setHow} />
        <ReasonFields
          reason={reason}
          setReason={setReason}
          me={me}
          lastDay={lastDay}
          setLastDay={setLastDay}
        />
        <FaultLine error={adding.error} />
        {outside.length > 0 && reason.trim() !== "" && (
          <Button className="self-start" onClick={() => setAsking(true)}>
            {t("list.askForOutsideAddressesTo", { outside: outside.length })}
          </Button>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("list.close")}</Button>
          <Button
            type="submit"
            look="go"
            disabled={coming.length === 0 || reason.trim() === "" || adding.isLoading}
          >
            {t("list.addresses", { how, coming: coming.length })}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function PasteField({
  text,
  setText,
}: {
  text: string;
  setText: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div>
      <label className="mb-1 block text-[13px] font-[560]" htmlFor="pasted">
        {t("list.pasteAddressesAsTheyCome")}
      </label>
      <textarea
        id="pasted"
        autoFocus
        rows={4}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="mono block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
    </div>
  );
}

function AddingChoice({ how, setHow }: { how: Adding; setHow: Dispatch<SetStateAction<Adding>> }) {
  return (
    <p>
      <Rich
        id="list.theyAreAdded2"
        choice={
          <Choice
            small
            label={t("list.theyAreAdded")}
            value={how}
            onChange={setHow}
            options={[
              { value: "quietly", name: t("list.quietly") },
              { value: "welcome", name: t("list.withItsWelcome") },
              { value: "ask", name: t("list.afterTheyAgree") },
            ]}
          />
        }
        until={
          how === "ask" && (
            <span className="text-[13px] text-ink-2"> {t("list.eachIsSentALink")}</span>
          )
        }
      />
    </p>
  );
}

function ReasonFields({
  reason,
  setReason,
  me,
  lastDay,
  setLastDay,
}: {
  reason: string;
  setReason: Dispatch<SetStateAction<string>>;
  me: Me;
  lastDay: string;
  setLastDay: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div className="grid gap-3 md:grid-cols-[2fr_1fr]">
      <Field
        label={t("list.reason")}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        maxLength={300}
        placeholder={t("list.helpsAtTheOpenDay")}
        help={t("list.shownBesideEachOfThem")}
      />
      <DayField
        label={t("list.lastDayIfThereIs")}

        min={today(me.timeZone)}
        value={lastDay}
        onChange={setLastDay}
      />
    </div>
  );
}
