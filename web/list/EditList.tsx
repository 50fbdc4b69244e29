import { useState, type FormEvent } from "react";
import { LIST_POINTS, type ListPoint } from "@amigo/core/lists/listPoint";
import type { ListRules } from "@amigo/core/lists/recipe";
import type { EditWanted } from "@amigo/contract/edits";
import type { House } from "@amigo/contract/house";
import type { ListPage } from "@amigo/contract/lists";
import { useHouseQuery } from "../data/house";
import { useMe } from "../data/me";
import { AudienceField } from "../ui/AudienceField";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { ListFields } from "../ui/ListFields";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { today, usualLastDay } from "../ui/time";

/** The points of one list. Where it has a recipe, what is changed here stands apart from it. */
export function EditList({ list, onClose, onSee }: { list: ListPage; onClose: () => void; onSee: (edit: { title: string; edit: EditWanted }) => void }) {
  const { data: house, error } = useHouseQuery();
  if (error !== undefined || house === undefined) return <Modal title={list.title} onClose={onClose}>{error === undefined ? <Loading what="the list" /> : <FaultLine error={error} />}</Modal>;
  const staff = new Map(house.staff.map(({ id, name }) => [name, id]));
  const isCoach = list.recipe !== null && house.recipes.find(({ id }) => id === list.recipe?.id)?.value.leads === "coach" && !list.apart.some(({ point }) => point === "leads");
  const leads = isCoach ? "coach" : list.leads.flatMap((name) => staff.get(name) ?? []).join(" ");
  const before = { title: list.title, description: list.description, short: list.short, name: list.name, audience: list.audience, leads, findable: list.findable, outside: list.outside, leaving: list.leaving, adding: list.adding, welcome: list.welcome };
  return <Form list={list} house={house} before={before} onClose={onClose} onSee={onSee} />;
}

type Own = ListRules & { title: string; description: string; short: string; name: string; audience: string };

function Form({ list, house, before, onClose, onSee }: { list: ListPage; house: House; before: Own; onClose: () => void; onSee: (edit: { title: string; edit: EditWanted }) => void }) {
  const me = useMe();
  const [own, setOwn] = useState(before);
  const [aliasUntil, setAliasUntil] = useState(usualLastDay(me.timeZone));
  const set = <Key extends keyof Own>(key: Key) => (part: Own[Key]): void => setOwn({ ...own, [key]: part });
  const isPoint = (key: string): key is ListPoint & keyof Own => LIST_POINTS.some((point) => point === key);
  const changed = Object.keys(own).filter(isPoint).filter((key) => own[key] !== before[key]);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onSee({ title: `What changing ${list.title} does`, edit: { what: "lists", aliasUntil: own.name === before.name ? "" : aliasUntil, lists: [{ key: list.key, points: Object.fromEntries(changed.map((key) => [key, own[key]])) }] } });
  };
  const each = list.recipe === null ? "" : (house.recipes.find(({ id }) => id === list.recipe?.id)?.value.each ?? "");
  return (
    <Modal wide title={`Change ${list.title}`} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <div className="grid grid-cols-2 gap-3"><Field label="Display name" value={own.title} onChange={(event) => set("title")(event.target.value)} maxLength={120} /><Field label="Short names, with commas between" value={own.short} onChange={(event) => set("short")(event.target.value)} maxLength={120} placeholder="trap, trap2" /></div>
        <Field label="Description" value={own.description} onChange={(event) => set("description")(event.target.value)} maxLength={500} placeholder="Who it is for and what is written here" />
        <div className="grid grid-cols-2 gap-3"><Field label="Name, before the @" value={own.name} spellCheck={false} onChange={(event) => set("name")(event.target.value.toLowerCase())} maxLength={64} className="[&_input]:font-mono [&_input]:text-[12.5px]" />{own.name !== before.name && <Field label="The old address works until" type="date" min={today(me.timeZone)} value={aliasUntil} onChange={(event) => setAliasUntil(event.target.value)} />}</div>
        <AudienceField value={own.audience} onChange={set("audience")} each={each} list={list.key} />
        <ListFields value={own} onChange={(rules) => setOwn({ ...own, ...rules })} staff={house.staff} hasCoach={each === "class" || each === "team" || each === "committee"} />
        {list.recipe !== null && changed.some((key) => key !== "short" && key !== "description" && key !== "name") && <p className="text-[13px] text-ink-2">In what you change here the list stands apart from its recipe, until it returns to it.</p>}
        <div className="flex justify-end gap-2"><Button onClick={onClose}>Close</Button><Button type="submit" look="go" disabled={changed.length === 0}>See what it changes</Button></div>
      </form>
    </Modal>
  );
}
