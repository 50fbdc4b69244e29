import type { Making } from "@amigo/contract/edits";
import { boundSentence, isWithin } from "@amigo/core/posting/houseRules";
import { brokenInvariants } from "@amigo/core/posting/invariants/allInvariants";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import type { ListKind, RuleId } from "@amigo/core/posting/rules/rule";
import { say } from "@amigo/language/say";
import { Rich, t } from "../texts/ui";
import { Choice } from "../ui/Choice";
import { MoreRules } from "./MoreRules";
import { Sentences } from "./Sentences";
import { boundIn, settledDraft, withPreset, type RulesDraft } from "./rulesDraft";

/** The rules of a list or recipe as sentences with the choices inside them; what contradicts itself or the house is told at once. */
export function RuleFields({
  value,
  onChange,
  making,
  kind,
  hasCoach,
  ofRecipe = false,
  list,
}: {
  value: RulesDraft;
  onChange: (value: RulesDraft) => void;
  making: Making;
  kind: ListKind;
  hasCoach: boolean;
  ofRecipe?: boolean;
  /** The list's id, where it is there already. */ list?: string;
}) {
  const rules = settledDraft(value, making, kind);
  const set = (id: RuleId, to: string): void =>
    onChange({ ...value, own: { ...value.own, [id]: to } });
  const preset = making.presets.find(({ id }) => id === value.preset);
  const leads = [
    ...(hasCoach ? [{ value: "coach", name: t("ui.theCoachOfTheClass") }] : []),
    { value: "", name: t("ui.nobody") },
    ...making.staff.map(({ id, name }) => ({ value: id, name })),
  ];
  const several = (ids: string) =>
    ids.includes(" ")
      ? [{ value: ids, name: t("ui.people", { count: ids.split(" ").length }) }]
      : [];
  const broken = brokenInvariants(
    { kind, rules, hasLead: true, insideDomains: making.insideDomains },
    new Set(making.invariantsOff),
  );
  const outOf = (Object.keys(ALL_RULES) as RuleId[]).filter(
    (id) => !isWithin(id, rules[id], boundIn(making, kind, id)),
  );
  /** Why choosing a preset would be refused, before it is chosen. */
  const refusalOf = (id: string): string => {
    const then = settledDraft(withPreset(value, id, making), making, kind);
    const first = (Object.keys(ALL_RULES) as RuleId[]).find(
      (one) => !isWithin(one, then[one], boundIn(making, kind, one)),
    );
    return first === undefined ? "" : say(boundSentence(kind, first, boundIn(making, kind, first)));
  };
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="mb-1 text-[13px] font-[560]">{t("ui.rules")}</legend>
      <PresetChoice
        value={value}
        onChange={onChange}
        making={making}
        refusalOf={refusalOf}
        preset={preset}
      />
      <LeadsChoice value={value} onChange={onChange} several={several} leads={leads} />
      <Sentences which="first" rules={rules} onSet={set} />
      {[
        ...broken.map(({ sentence }) => say(sentence)),
        ...outOf.map((id) =>
          t("ui.chooseOtherwiseOrChangeThe", {
            rule: say(boundSentence(kind, id, boundIn(making, kind, id))),
            ofRecipe: String(ofRecipe),
          }),
        ),
      ].map((sentence) => (
        <p
          key={sentence}
          role="status"
          className="rounded-md border border-marigold-line bg-marigold-soft px-2.5 py-1 text-[13px] text-marigold-ink"
        >
          <b>! </b>
          {sentence}
        </p>
      ))}
      <MoreRules rules={rules} set={set} value={value} onChange={onChange} list={list} />
    </fieldset>
  );
}

function PresetChoice({
  value,
  onChange,
  making,
  refusalOf,
  preset,
}: {
  value: RulesDraft;
  onChange: (value: RulesDraft) => void;
  making: Making;
  refusalOf: (id: string) => string;
  preset:
    | {
        id: string;
        name: string;
        what: string;
        own: boolean;
        rules: Partial<Record<RuleId, string>>;
      }
    | undefined;
}) {
  return (
    <p>
      <Rich
        id="ui.presetWithChanges"
        choice={
          <Choice
            small
            label={t("ui.postingRules")}
            value={value.preset}
            onChange={(id) => onChange(withPreset(value, id, making))}
            options={making.presets.map(({ id, name }) => ({
              value: id,
              name: refusalOf(id) === "" ? name : t("ui.presetNotAllowed", { name }),
            }))}
          />
        }
        is={String(Object.keys(value.own).some((id) => preset?.rules[id as RuleId] !== undefined))}
        what={<span className="text-[13px] text-ink-2">{preset?.what}</span>}
      />
    </p>
  );
}

function LeadsChoice({
  value,
  onChange,
  several,
  leads,
}: {
  value: RulesDraft;
  onChange: (value: RulesDraft) => void;
  several: (ids: string) => { value: string; name: string }[];
  leads: { value: string; name: string }[];
}) {
  return (
    <p>
      <Rich
        id="ui.leadsHelpers"
        choice={
          <Choice
            small
            label={t("ui.ledBy")}
            value={value.leads}
            onChange={(to) => onChange({ ...value, leads: to })}
            options={[...several(value.leads), ...leads]}
          />
        }
        choice2={
          <Choice
            small
            label={t("ui.helpedBy")}
            value={value.helpers}
            onChange={(to) => onChange({ ...value, helpers: to })}
            options={[...several(value.helpers), ...leads.filter((lead) => lead.value !== "coach")]}
          />
        }
      />
    </p>
  );
}
