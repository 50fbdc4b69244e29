import { useId } from "react";
import type { RuleId } from "@amigo/core/posting/rules/rule";
import { Rich, t } from "../texts/ui";
import { Choice } from "../ui/Choice";
import { Sentences } from "./Sentences";
import { WelcomeField } from "./WelcomeField";
import type { RulesDraft } from "./rulesDraft";

const ADDING = [
  { value: "quietly", name: t("ui.quietly") },
  { value: "welcome", name: t("ui.withItsWelcome") },
  { value: "ask", name: t("ui.afterTheyAgree") },
] as const;

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

export function MoreRules({
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
