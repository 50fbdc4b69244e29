import type { House } from "@amigo/contract/house";
import type { ListRules } from "@amigo/core/lists/recipe";
import { Choice } from "./Choice";

export const RULE_CHOICES = {
  findable: [{ value: "leads", name: "its leads and coordinators" }, { value: "staff", name: "everybody on the staff" }],
  outside: [{ value: "any", name: "allowed" }, { value: "none", name: "not allowed" }],
  leaving: [{ value: "by oneself", name: "by themselves" }, { value: "through a lead", name: "through a lead" }],
  adding: [{ value: "quietly", name: "quietly" }, { value: "welcome", name: "with its welcome" }, { value: "ask", name: "once they have said yes" }],
} as const;

/** Rules as sentences with the choices inside them, and the words of the welcome where there is one. */
export function ListFields({ value, onChange, staff, hasCoach }: { value: ListRules; onChange: (value: ListRules) => void; staff: House["staff"]; hasCoach: boolean }) {
  const set = <Key extends keyof ListRules>(key: Key) => (own: ListRules[Key]): void => onChange({ ...value, [key]: own });
  const leads = [...(hasCoach ? [{ value: "coach", name: "the coach of the class" }] : []), { value: "", name: "nobody" }, ...staff.map(({ id, name }) => ({ value: id, name }))];
  const several = value.leads.includes(" ") ? [{ value: value.leads, name: `${value.leads.split(" ").length} people` }] : [];
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="mb-1 text-[13px] font-[560]">Rules</legend>
      <p>It is led by <Choice small label="Led by" value={value.leads} onChange={set("leads")} options={[...several, ...leads]} />.</p>
      <p>Outside addresses are <Choice small label="Outside addresses" value={value.outside} onChange={set("outside")} options={RULE_CHOICES.outside} />.</p>
      <p>Members come onto it <Choice small label="Members come onto it" value={value.adding} onChange={set("adding")} options={RULE_CHOICES.adding} /> and leave <Choice small label="Members leave" value={value.leaving} onChange={set("leaving")} options={RULE_CHOICES.leaving} />.</p>
      <p>It is found by <Choice small label="Found by" value={value.findable} onChange={set("findable")} options={RULE_CHOICES.findable} />.</p>
      {value.adding === "welcome" && <label className="mt-1 block text-[13px] font-[560]">Welcome<textarea rows={3} value={value.welcome} onChange={(event) => set("welcome")(event.target.value)} placeholder={"Hello, this address is on {list} ({address}) of {house} from now on."} className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal" /><span className="font-normal text-ink-3">{"{list}, {address} and {house} are filled in. Left empty, Amigo finds the words."}</span></label>}
    </fieldset>
  );
}
