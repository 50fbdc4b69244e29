import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { X } from "lucide-react";
import { useEffect, useId, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import { fold } from "@amigo/core/text/fold";
import { useListHitsQuery, useListQuery } from "../data/lists";
import { usePrivateListQuery, usePrivateListsQuery } from "../data/private";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { useReckonQuery, useSendMutation } from "../data/posts";

/** A list of the house, or a private one of one's own. */
interface Chosen {
  id: string;
  title: string;
  name: string;
  members: number;
  isPrivate: boolean;
}

/** Writing to one or several lists: type the start of a name, see to whom it goes, send. */
export function WritePage() {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const to = search.get("to") ?? "";
  const given = useListQuery(to, { skip: to === "" });
  const privateTo = search.get("private") ?? "";
  const givenPrivate = usePrivateListQuery(privateTo, { skip: privateTo === "" });
  const [chosen, setChosen] = useState<Chosen[]>([]);
  const [subject, setSubject] = useState("");
  const [text, setText] = useState("");
  const [key] = useState(() => crypto.randomUUID());
  const [send, sending] = useSendMutation();
  const textId = useId();
  useEffect(() => {
    const list = given.data;
    if (list !== undefined) setChosen((before) => (before.some(({ id }) => id === list.id) ? before : [...before, { ...list, isPrivate: false }]));
  }, [given.data]);
  useEffect(() => {
    const list = givenPrivate.data;
    if (list !== undefined) setChosen((before) => (before.some(({ id }) => id === list.id) ? before : [...before, { id: list.id, title: list.name, name: "", members: list.people, isPrivate: true }]));
  }, [givenPrivate.data]);
  const of = (isPrivate: boolean): string[] => chosen.filter((own) => own.isPrivate === isPrivate).map(({ id }) => id);
  const reckoning = useReckonQuery({ lists: of(false), privately: of(true) }, { skip: chosen.length === 0 });
  const counts = chosen.length === 0 ? undefined : reckoning.currentData;
  const ready = counts !== undefined && (counts.addresses > 0 || counts.notes.length > 0) && counts.refused.length === 0 && subject.trim() !== "" && text.trim() !== "";
  const submit = async (): Promise<void> => {
    if (!ready || sending.isLoading) return;
    const answer = await send({ lists: of(false), privately: of(true), subject, text, key });
    if (answer.data !== undefined) void navigate(`/mail/${answer.data.id}`);
  };
  return (
    <>
      <PageHead title="Write" line="Recipients never see each other" />
      <Panel className="flex max-w-3xl flex-col gap-3.5 p-4">
        <div onKeyDown={(event) => { if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) { event.preventDefault(); void submit(); } }} className="flex flex-col gap-3.5">
          <ToField chosen={chosen} onChange={setChosen} autoFocus={to === "" && privateTo === ""} />
          <p role="status" aria-live="polite" className="-mt-2 min-h-5 text-[13px] text-ink-2">
            {counts === undefined ? (chosen.length === 0 ? "" : "Counting …") : <><b className="font-[620] text-ink">{counted(counts.addresses, "address", "addresses")} in {counted(counts.families, "family", "families")}</b>{counts.unreachable > 0 && <>; <Warn>{counted(counts.unreachable, "family", "families")} cannot be reached</Warn></>}{counts.twice > 0 && `; ${counts.twice} ${counts.twice === 1 ? "is" : "are"} on two of these lists and ${counts.twice === 1 ? "gets" : "get"} one copy`}{counts.notes.map((note) => <span key={note} className="block text-marigold-ink">! {note}</span>)}{counts.refused.map((reason) => <span key={reason} className="block text-brick">− {reason}</span>)}</>}
          </p>
          <Field label="Subject" autoFocus={to !== "" || privateTo !== ""} value={subject} onChange={(event) => setSubject(event.target.value)} maxLength={300} />
          <div><label htmlFor={textId} className="mb-1 block text-[13px] font-[560]">Text</label><textarea id={textId} value={text} onChange={(event) => setText(event.target.value)} rows={14} className="w-full rounded-md border border-hair bg-panel px-2.5 py-2 hover:border-ink-3" /></div>
        </div>
        <FaultLine error={sending.error ?? given.error ?? givenPrivate.error} />
        <div className="flex items-center gap-3"><Button look="go" disabled={!ready || sending.isLoading} onClick={() => void submit()}>{sending.isLoading ? "Sending …" : counts === undefined || counts.addresses === 0 ? "Send" : `Send to ${counted(counts.addresses, "address", "addresses")}`} <kbd>Ctrl ↵</kbd></Button><span className="text-[13px] text-ink-3">{of(false).length === 0 && chosen.length > 0 ? "It comes from you, to each alone; answers come to you." : "It comes from you by way of the list; answers come to you."}</span></div>
      </Panel>
    </>
  );
}

function ToField({ chosen, onChange, autoFocus }: { chosen: readonly Chosen[]; onChange: (chosen: Chosen[]) => void; autoFocus: boolean }) {
  const [text, setText] = useState("");
  const inputId = useId();
  // Only what answers the text as it is now: a hit of an older text must never be taken by a quick Enter.
  const { currentData: hits = [] } = useListHitsQuery(text.trim());
  const { data: privateLists = [] } = usePrivateListsQuery();
  const typed = fold(text);
  const own = typed === "" ? [] : privateLists.filter(({ name }) => fold(name).split(" ").some((_, index, words) => words.slice(index).join(" ").startsWith(typed))).map(({ id, name, people }): Chosen => ({ id, title: name, name: "private, yours alone", members: people, isPrivate: true }));
  const open = [...own, ...hits.map((hit): Chosen => ({ ...hit, isPrivate: false }))].filter(({ id }) => !chosen.some((list) => list.id === id));
  return (
    <div>
      <label htmlFor={inputId} className="mb-1 block text-[13px] font-[560]">To</label>
      <Combobox value={null} onChange={(hit: Chosen | null) => { if (hit !== null) { onChange([...chosen, hit]); setText(""); } }} immediate>
        <div className="flex min-h-[34px] flex-wrap items-center gap-1.5 rounded-md border border-hair bg-panel px-1.5 py-1 focus-within:outline-2 focus-within:outline-petrol">
          {chosen.map((list) => <span key={list.id} className="flex items-center gap-1.5 rounded bg-petrol-soft py-0.5 pr-1 pl-2 text-petrol"><b className="font-[600]">{list.title}</b><button type="button" aria-label={`Take ${list.title} off`} onClick={() => onChange(chosen.filter(({ id }) => id !== list.id))} className="rounded hover:bg-panel"><X size={14} aria-hidden="true" /></button></span>)}
          <ComboboxInput id={inputId} autoFocus={autoFocus} value={text} displayValue={() => text} onChange={(event) => setText(event.target.value)} onKeyDown={(event) => { if (event.key === "Backspace" && text === "" && chosen.length > 0) onChange(chosen.slice(0, -1)); }} placeholder={chosen.length === 0 ? "start of a list's name: trap, wire, juggling one …" : ""} autoComplete="off" className="min-w-40 flex-1 bg-transparent px-1 outline-none!" />
        </div>
        <ComboboxOptions anchor={{ to: "bottom start", gap: 4 }} className="z-30 w-(--input-width) min-w-96 rounded-md border border-hair bg-panel py-1 shadow-lg empty:invisible">
          {open.map((hit) => <ComboboxOption key={hit.id} value={hit} className="flex cursor-pointer items-baseline gap-3 px-3 py-1.5 data-focus:bg-petrol-soft"><b className="font-[620]">{hit.title}</b><span className={`min-w-0 flex-1 truncate text-ink-2 ${hit.isPrivate ? "text-[13px]" : "mono"}`}>{hit.name}</span><span className="text-[13px] text-ink-3">{hit.members}</span></ComboboxOption>)}
        </ComboboxOptions>
      </Combobox>
    </div>
  );
}
