import { useId } from "react";
import { say, sayParts } from "@amigo/language/say";
import { boundSentence, isWithin } from "@amigo/core/posting/houseRules";
import { brokenInvariants } from "@amigo/core/posting/invariants/allInvariants";
import { ruleTemplates } from "@amigo/core/posting/ruleSentences";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS, type ListKind, type RuleId, type Rules } from "@amigo/core/posting/rules/rule";
import type { Making } from "@amigo/contract/edits";
import { Choice } from "./Choice";
import { WelcomeField } from "./WelcomeField";
import { boundIn, settledDraft, withPreset, type RulesDraft } from "./rulesDraft";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";

const ADDING = [
  { value: "quietly", name: t("ui.quietly") },
  { value: "welcome", name: t("ui.withItsWelcome") },
  { value: "ask", name: t("ui.afterTheyAgree") },
] as const;

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
    { kind, rules, hasLead: true, insideDomain: making.insideDomain },
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
            rule: boundSentence(kind, id, boundIn(making, kind, id)),
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

function Sentences({
  which,
  rules,
  onSet,
}: {
  which: "first" | "rest";
  rules: Rules;
  onSet: (id: RuleId, value: string) => void;
}) {
  return ruleTemplates(rules, which)
    .map(sayParts)
    .map((pieces) => (
      <p key={pieces.map(({ place }) => place).join(" ")} className="leading-[32px]">
        {pieces.map(({ text, place }, part) => {
          const id = RULE_IDS.find((rule) => rule === place);
          return id === undefined ? (
            <span key={part}>{text}</span>
          ) : (
            <Value key={id} id={id} value={rules[id]} onChange={(to) => onSet(id, to)} />
          );
        })}
      </p>
    ));
}

function Value({
  id,
  value,
  onChange,
}: {
  id: RuleId;
  value: string;
  onChange: (value: string) => void;
}) {
  const { form, values, words, most, unit } = ALL_RULES[id];
  if (form === "choice")
    return (
      <Choice
        small
        label={say(words)}
        value={value}
        onChange={onChange}
        options={values.map((choice) => ({ value: choice.value, name: say(choice.words) }))}
      />
    );
  return (
    <>
      <input
        type="number"
        aria-label={say(words)}
        min={1}
        max={most}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-[26px] w-16 rounded-md border border-hair bg-panel px-1.5 text-right text-[13px] font-[560]"
      />{" "}
      {say(unit)}
    </>
  );
}

function Words({
  label,
  value,
  onChange,
  rows,
  placeholder,
  help,
  mono = false,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  rows: number;
  placeholder: string;
  help: string;
  mono?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-[13px] font-[560]">
        {label}
      </label>
      <textarea
        id={id}
        aria-describedby={`${id}-help`}
        rows={rows}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        placeholder={placeholder}
        className={`mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 ${mono ? "mono" : ""}`}
      />
      <span id={`${id}-help`} className="text-[13px] text-ink-3">
        {help}
      </span>
    </div>
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

function MoreRules({
  rules,
  set,
  value,
  onChange,
  list,
}: {
  rules: Readonly<Record<RuleId, string>>;
  set: (id: RuleId, to: string) => void;
  value: RulesDraft;
  onChange: (value: RulesDraft) => void;
  list: string | undefined;
}) {
  return (
    <details className="mt-1">
      <summary className="w-fit cursor-pointer text-[13px] font-[560] text-petrol">
        {t("ui.moreRulesMembersFindingJoining")}
      </summary>
      <div className="mt-2 flex flex-col gap-1.5">
        <Sentences which="rest" rules={rules} onSet={set} />
        <p>
          <Rich
            id="ui.newMembersComeOntoIt"
            choice={
              <Choice
                small
                label={t("ui.membersComeOntoIt")}
                value={value.adding}
                onChange={(adding) => onChange({ ...value, adding })}
                options={ADDING}
              />
            }
          />
        </p>
        <Words
          label={t("ui.theseAddressesMayWriteToo")}
          value={rules.also}
          onChange={(to) => set("also", to)}
          rows={1}
          placeholder={t("ui.officeSchoolExampleCaretakerSchool")}
          help={t("ui.withCommasBetweenThem")}
          mono
        />
        <WelcomeField
          label={t("ui.welcome")}
          value={rules.welcome}
          onChange={(to) => set("welcome", to)}
          lists={list === undefined ? [] : [list]}
          help={t("ui.leftEmptyAmigoWritesA")}
        />
        <Words
          label={t("ui.footer")}
          value={rules.footer}
          onChange={(to) => set("footer", to)}
          rows={2}
          placeholder={t("ui.nameAndAddressOfThe")}
          help={t("ui.atTheEndOfEvery")}
        />
      </div>
    </details>
  );
}
