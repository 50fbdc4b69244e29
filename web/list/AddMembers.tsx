import { useEffect, useState, type FormEvent } from "react";
import { counted } from "@amigo/core/text/sentence";
import type { Adding } from "@amigo/core/lists/recipe";
import type { ListPage } from "@amigo/contract/lists";
import { useAddMembersMutation, usePastedMutation } from "../data/lists";
import { useMe } from "../data/me";
import { AskPermission } from "../ui/AskPermission";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { PastedLines } from "../ui/PastedLines";
import { today } from "../ui/time";
import { DayField } from "../ui/DayField";

const SETTLES_AFTER = 250;

/** What keeps an address off a list, in the words of the result. */
const NOT_TAKEN = [
  ["already there", "on it already"],
  ["twice", "pasted twice"],
  ["outside", "outside and not allowed"],
  ["unusable", "not usable"],
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
      already > 0 ? `${already} on it already` : "",
      ...NOT_TAKEN.map(([outcome, words]) => {
        const own = told.lines.filter((line) => line.outcome === outcome);
        return own.length === 0
          ? ""
          : `${own.length} ${words} (${own.map(({ address, written }) => address || written).join(", ")})`;
      }),
      told.leftOver.length === 0 ? "" : `no address: ${told.leftOver.join(", ")}`,
    ].filter((part) => part !== "");
    onDone(
      `${counted(told.lines.length, "address", "addresses")} in: ${asked > 0 ? `${asked} asked` : `${added} added`}${waiting > 0 ? `, ${waiting} waiting for a lead` : ""}${out > 0 || told.leftOver.length > 0 ? `, ${out} not: ${why.join("; ")}` : ""}.`,
    );
  };
  const verb = how === "ask" ? "Ask" : "Add";
  const outside = told?.lines.filter(({ outcome }) => outcome === "outside") ?? [];
  if (asking) {
    const guardians = outside.every(({ who }) => who !== "");
    return (
      <Modal title="Outside addresses on this list" onClose={() => setAsking(false)}>
        <p>
          {counted(outside.length, "address", "addresses")} can't join {list.title} by its rules:{" "}
          {outside
            .slice(0, 4)
            .map(({ address }) => address)
            .join(", ")}
          {outside.length > 4 && " …"}. They are kept with the request and join once it is approved.
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
          <Button onClick={() => setAsking(false)}>Back</Button>
        </div>
      </Modal>
    );
  }
  return (
    <Modal wide title={`Add members to ${list.title}`} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <div>
          <label className="mb-1 block text-[13px] font-[560]" htmlFor="pasted">
            Paste addresses as they come: out of a mail, a sheet, a message
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
        <FaultLine error={error} />
        {told !== undefined && (
          <PastedLines
            {...told}
            onFix={(written, right) => setText((before) => before.replace(written, right))}
          />
        )}
        <p>
          They are added{" "}
          <Choice
            small
            label="They are added"
            value={how}
            onChange={setHow}
            options={[
              { value: "quietly", name: "quietly" },
              { value: "welcome", name: "with its welcome" },
              { value: "ask", name: "after they agree" },
            ]}
          />
          {how === "ask" && (
            <span className="text-[13px] text-ink-2">
              {" "}
              Each is sent a link; without a yes nothing more is sent.
            </span>
          )}
        </p>
        <div className="grid gap-3 md:grid-cols-[2fr_1fr]">
          <Field
            label="Reason"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            maxLength={300}
            placeholder="helps at the open day"
            help="Shown beside each of them. Changes in the sheets don't remove them."
          />
          <DayField
            label="Last day, if there is one"

            min={today(me.timeZone)}
            value={lastDay}
            onChange={setLastDay}
          />
        </div>
        <FaultLine error={adding.error} />
        {outside.length > 0 && reason.trim() !== "" && (
          <Button className="self-start" onClick={() => setAsking(true)}>
            Ask for {counted(outside.length, "outside address", "outside addresses")} to be allowed
            …
          </Button>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button
            type="submit"
            look="go"
            disabled={coming.length === 0 || reason.trim() === "" || adding.isLoading}
          >
            {verb} {counted(coming.length, "address", "addresses")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
