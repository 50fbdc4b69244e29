import type { Making, EditWanted } from "@amigo/contract/edits";
import type { Message } from "@amigo/language/message";
import { type RuleId, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { say } from "@amigo/language/say";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { useMakingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { t } from "../texts/lists";

type What = "leads" | "preset" | "adding" | "season" | "state" | RuleId;
const WHAT: readonly { value: What; name: string }[] = [
  { value: "leads", name: t("lists.whoLeadsThem") },
  { value: "preset", name: t("lists.postingRules") },
  ...RULE_IDS.map((id) => ({ value: id, name: say(ALL_RULES[id].words) })),
  { value: "adding", name: t("lists.howMembersComeOntoThem") },
  { value: "season", name: t("lists.forWhichSeasons") },
  { value: "state", name: t("lists.closeOrOpenThem") },
];
const ADDING = [
  { value: "quietly", name: t("lists.quietly") },
  { value: "welcome", name: t("lists.withItsWelcome") },
  { value: "ask", name: t("lists.afterTheyAgree") },
];

function labelOf(rule: RuleId): string {
  const { words, unit } = ALL_RULES[rule];
  return unit === undefined ? say(words) : t("lists.ruleInUnit", { rule: words, unit });
}

interface ChoiceLine {
  value: string;
  name: string;
}

/** Returns what can be chosen for a point of lists. */
function choicesFor(what: What, making: Making | undefined): readonly ChoiceLine[] {
  switch (what) {
    case "leads":
      return [
        { value: "coach", name: t("lists.theCoachOfTheClass") },
        { value: "nobody", name: t("lists.nobody") },
        ...(making?.staff ?? []).map(({ id, name }) => ({ value: id, name })),
      ];
    case "season":
      return [
        { value: "every season", name: t("lists.everySeason") },
        { value: "this season only", name: t("lists.thisSeasonOnly") },
      ];
    case "state":
      return [
        { value: "closed", name: t("lists.closed") },
        { value: "open", name: t("lists.open") },
      ];
    case "adding":
      return ADDING;
    case "preset":
      return (making?.presets ?? []).map(({ id, name }) => ({ value: id, name }));
    default:
      return ALL_RULES[what].values.map(({ value, words }) => ({ value, name: say(words) }));
  }
}

/** Returns what a choice makes of a point; nothing takes it back to what the recipe says. */
function pointOf(chosen: ChoiceLine | undefined): string | null {
  if (chosen?.value === "recipe") return null;
  return chosen === undefined || chosen.value === "nobody" ? "" : chosen.value;
}

/** Returns what is wrong with a typed value of a rule. */
function faultOf(rule: RuleId, value: string): ReturnType<typeof t> | Message | undefined {
  const { form, fault } = ALL_RULES[rule];
  if (form === "choice") return undefined;
  return form === "number" && !/^\d{1,6}$/.test(value)
    ? t("lists.writeAWholeNumber")
    : fault?.(value);
}

/** One rule, lead or season for many lists at once, or closing them all; shown first, and carried out as one round. */
export function ChangeMany({
  lists,
  onClose,
  onSee,
}: {
  lists: readonly { key: string; title: string; recipe: string; state: string }[];
  onClose: () => void;
  onSee: (edit: { title: string; edit: EditWanted }) => void;
}) {
  const { data: making } = useMakingQuery();
  const [what, setWhat] = useState<What>("leads");
  const [value, setValue] = useState("");
  const withRecipe = lists.some(({ recipe }) => recipe !== "");
  const back =
    withRecipe && what !== "state" ? [{ value: "recipe", name: t("lists.asTheRecipeHasIt") }] : [];
  const choices = [...choicesFor(what, making), ...back];
  const rule = RULE_IDS.find((id) => id === what);
  const form = rule === undefined ? "choice" : ALL_RULES[rule].form;
  const [edited, setEdited] = useState("");
  const [asRecipe, setAsRecipe] = useState(false);
  const fault = asRecipe || rule === undefined ? undefined : faultOf(rule, edited);
  const chosen = choices.find((choice) => choice.value === value) ?? choices[0];
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (chosen === undefined && form === "choice") return;
    const point: ListPoint = what;
    const to = form === "choice" ? pointOf(chosen) : asRecipe ? null : edited;
    onSee({
      title:
        what === "state"
          ? t("lists.closeLists", { isTo: String(to === "closed"), lists: lists.length })
          : t("lists.changeLists2", { lists: lists.length }),
      edit: {
        what: "lists",
        aliasUntil: "",
        lists: lists.map(({ key }) => ({ key, points: { [point]: to } })),
      },
    });
  };
  return (
    <Modal title={t("lists.changeLists2", { lists: lists.length })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <WhatToChange
          what={what}
          setWhat={setWhat}
          setValue={setValue}
          setEdited={setEdited}
          setAsRecipe={setAsRecipe}
          form={form}
          chosen={chosen}
          choices={choices}
        />
        {form === "number" && (
          <Field
            label={labelOf(rule ?? "perDay")}
            inputMode="numeric"
            disabled={asRecipe}
            value={edited}
            onChange={(event) => setEdited(event.target.value)}
            className="w-64 max-w-full"
          />
        )}
        {(form === "text" || form === "addresses") && (
          <WelcomeText
            rule={rule}
            form={form}
            asRecipe={asRecipe}
            edited={edited}
            setEdited={setEdited}
          />
        )}
        {form !== "choice" && withRecipe && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={asRecipe}
              onChange={(event) => setAsRecipe(event.target.checked)}
            />
            {t("lists.asTheRecipeHasIt")}
          </label>
        )}
        {fault !== undefined && edited !== "" && (
          <p role="alert" className="text-[13px] text-brick">
            ! {say(fault)}
          </p>
        )}
        <p className="max-h-40 overflow-auto text-[13px] text-ink-2">
          {lists.map(({ title }) => title).join(" · ")}
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("lists.close")}</Button>
          <Button type="submit" look="go" disabled={fault !== undefined}>
            {t("lists.preview")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function WhatToChange({
  what,
  setWhat,
  setValue,
  setEdited,
  setAsRecipe,
  form,
  chosen,
  choices,
}: {
  what: What;
  setWhat: Dispatch<SetStateAction<What>>;
  setValue: Dispatch<SetStateAction<string>>;
  setEdited: Dispatch<SetStateAction<string>>;
  setAsRecipe: Dispatch<SetStateAction<boolean>>;
  form: "number" | "text" | "addresses" | "choice";
  chosen: { value: string; name: string } | undefined;
  choices: readonly { value: string; name: string }[];
}) {
  return (
    <p>
      <Choice
        label={t("lists.whatToChange")}
        value={what}
        onChange={(next) => {
          setWhat(next);
          setValue("");
          setEdited("");
          setAsRecipe(false);
        }}
        options={WHAT}
      />{" "}
      {form === "choice" && (
        <>
          <span className="mx-1">:</span>{" "}
          <Choice
            label={t("lists.toWhat")}
            value={chosen?.value ?? ""}
            onChange={setValue}
            options={choices}
          />
        </>
      )}
    </p>
  );
}

function WelcomeText({
  rule,
  form,
  asRecipe,
  edited,
  setEdited,
}: {
  rule: RuleId | undefined;
  form: "text" | "addresses";
  asRecipe: boolean;
  edited: string;
  setEdited: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div>
      <label className="mb-1 block text-[13px] font-[560]" htmlFor="many-text">
        {say(ALL_RULES[rule ?? "footer"].words)}
      </label>
      <textarea
        id="many-text"
        rows={form === "text" ? 4 : 2}
        disabled={asRecipe}
        value={edited}
        maxLength={ALL_RULES[rule ?? "footer"].most}
        onChange={(event) => setEdited(event.target.value)}
        className="block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
    </div>
  );
}
