import { useState, type FormEvent } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { isInside } from "@amigo/core/address/isInside";
import { readAddress } from "@amigo/core/address/readAddress";
import { splitAddresses } from "@amigo/core/address/splitAddresses";
import { tidyName } from "@amigo/core/naming/pattern";
import { counted } from "@amigo/core/text/sentence";
import type { ListRules } from "@amigo/core/lists/recipe";
import type { EditWanted } from "@amigo/contract/edits";
import { useHouseQuery } from "../data/house";
import { AudienceField } from "../ui/AudienceField";
import { Button } from "../ui/Button";
import { EditDialog } from "../ui/EditDialog";
import { Field } from "../ui/Field";
import { ListFields } from "../ui/ListFields";
import { FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";

/** A list without a recipe: by its audience, by people picked by hand, from pasted addresses, or all of these. */
export function NewListPage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { data: house, error } = useHouseQuery();
  const [key] = useState(() => crypto.randomUUID());
  const [title, setTitle] = useState("");
  const [name, setName] = useState<string>();
  const [short, setShort] = useState("");
  const [description, setDescription] = useState("");
  const [audience, setAudience] = useState(search.get("audience") ?? "");
  const [pasted, setPasted] = useState("");
  const [touched, setTouched] = useState(false);
  const [own, setOwn] = useState<ListRules>({ leads: "", findable: "leads", outside: "none", leaving: "by oneself", adding: "quietly", welcome: "" });
  const [preview, setPreview] = useState<EditWanted>();
  if (error !== undefined) return <FaultLine error={error} />;
  if (house === undefined) return <Loading what="the house" />;
  const ownName = name ?? tidyName(title).slice(0, 54);
  const { pieces, leftOver } = splitAddresses(pasted);
  const read = pieces.map((written) => ({ written, reading: readAddress(written, new Map()) }));
  const good = [...new Set(read.flatMap(({ reading }) => (reading.answer === "unusable" ? [] : [reading.address])))];
  const repaired = read.flatMap(({ written, reading }) => (reading.answer === "probably" ? [{ written, address: reading.address }] : []));
  const bad = [...read.filter(({ reading }) => reading.answer === "unusable").map(({ written }) => written), ...leftOver];
  // Guardians have outside addresses nearly always; whoever chooses otherwise is left alone.
  const rules: ListRules = touched ? own : { ...own, outside: /\bguardians\b/i.test(audience) || good.some((address) => !isInside(address, house.insideDomain)) ? "any" : "none" };
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setPreview({ what: "lists", aliasUntil: "", lists: [{ key, keep: good, points: { title: title.trim(), name: ownName, audience: audience.trim(), ...(short === "" ? {} : { short }), ...(description === "" ? {} : { description }), leads: rules.leads, findable: rules.findable, outside: rules.outside, leaving: rules.leaving, adding: rules.adding, welcome: rules.welcome } }] });
  };
  return (
    <>
      <PageHead title="Make a list" line="One of its own, beside those that recipes make" />
      <Panel className="max-w-3xl p-4">
        <form className="flex flex-col gap-3" onSubmit={submit}>
          <div className="grid grid-cols-2 gap-3"><Field label="Display name" autoFocus value={title} onChange={(event) => setTitle(event.target.value)} maxLength={120} placeholder="Friends of the Ring" /><Field label="Name, before the @" value={ownName} spellCheck={false} onChange={(event) => setName(event.target.value.toLowerCase())} maxLength={64} className="[&_input]:font-mono [&_input]:text-[12.5px]" help={ownName === "" ? "" : `${ownName}@${house.listDomain}`} /></div>
          <AudienceField label="Who belongs on it, by what the sheets say; empty for people put on by hand alone" value={audience} onChange={setAudience} each="" />
          <div><label htmlFor="addresses" className="mb-1 block text-[13px] font-[560]">Addresses to put on it by hand, pasted as they come</label><textarea id="addresses" rows={3} value={pasted} onChange={(event) => setPasted(event.target.value)} className="mono block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5" />
            {pasted.trim() !== "" && <p role="status" className="mt-1 text-[13px]">{counted(pieces.length, "address", "addresses")} in, {good.length} to put on{repaired.length > 0 && <span className="block">Read as probably meant: {repaired.slice(0, 6).map(({ written, address }) => `${address} (written ${written})`).join(" · ")}{repaired.length > 6 && " …"}</span>}{bad.length > 0 && <span className="block"><Warn>Not usable as they stand: {bad.slice(0, 6).join(" · ")}{bad.length > 6 && " …"}</Warn></span>}</p>}</div>
          <div className="grid grid-cols-2 gap-3"><Field label="Description" value={description} onChange={(event) => setDescription(event.target.value)} maxLength={500} placeholder="Who it is for and what is written here" /><Field label="Short names, with commas between" value={short} onChange={(event) => setShort(event.target.value)} maxLength={120} placeholder="friends" /></div>
          <ListFields value={rules} onChange={(next) => { setTouched(true); setOwn(next); }} staff={house.staff} hasCoach={false} />
          <div className="flex gap-2"><Button type="submit" look="go" disabled={title.trim() === "" || ownName === "" || (audience.trim() === "" && good.length === 0)}>See what it makes</Button><Button onClick={() => void navigate(-1)}>Back</Button></div>
        </form>
      </Panel>
      {preview !== undefined && <EditDialog title={`Make the list ${title}`} edit={preview} onClose={() => setPreview(undefined)} onDone={() => void navigate(`/lists/${key}`)} />}
    </>
  );
}
