import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { say } from "@amigo/language/say";
import { PARTS, readPattern } from "@amigo/core/naming/pattern";
import type { House } from "@amigo/contract/house";
import type { EditWanted } from "@amigo/contract/edits";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { useMakingQuery } from "../data/edits";
import { useMe } from "../data/me";
import { AudienceField } from "../audience/AudienceField";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../edits/EditDialog";
import { Field } from "../ui/Field";
import { FaultLine, Loading } from "../ui/Page";
import { kindOfText } from "../rules/kindOfText";
import { RuleFields } from "../rules/RuleFields";
import type { RulesDraft } from "../rules/rulesDraft";
import { Modal } from "../ui/Modal";
import { today, usualLastDay } from "../ui/time";
import { DayField } from "../ui/DayField";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import type { Me } from "@amigo/contract/accounts";

type Value = House["recipes"][number]["value"];

const EACH = [
  { value: "class", name: t("house.eachClass") },
  { value: "team", name: t("house.eachTeam") },
  { value: "committee", name: t("house.eachCommittee") },
  { value: "site", name: t("house.eachSite") },
  { value: "level", name: t("house.eachLevel") },
  { value: "house", name: t("house.theWholeHouseOneList") },
] as const;

/** A recipe to be written or changed; what it would change is shown before anything happens. */
export function RecipeDialog({
  number,
  value,
  isNew,
  onClose,
  onDone,
}: {
  number: number;
  value: Value;
  isNew: boolean;
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const me = useMe();
  const making = useMakingQuery();
  const [edited, setEdited] = useState(value);
  const [aliasUntil, setAliasUntil] = useState(usualLastDay(me.timeZone));
  const [preview, setPreview] = useState<EditWanted>();
  const set =
    <Key extends keyof Value>(key: Key) =>
    (part: Value[Key]): void =>
      setEdited({ ...edited, [key]: part });
  const pattern = readPattern(edited.pattern);
  const renames = !isNew && (edited.pattern !== value.pattern || edited.label !== value.label);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setPreview({
      what: "recipe",
      recipe: number,
      value: edited,
      aliasUntil: renames ? aliasUntil : "",
    });
  };
  if (preview !== undefined)
    return (
      <EditDialog
        title={
          isNew
            ? t("house.newRecipe", { name: edited.name })
            : t("house.previewChange", { name: edited.name })
        }
        edit={preview}
        onClose={() => setPreview(undefined)}
        onDone={onDone}
      />
    );
  return (
    <Modal wide title={isNew ? t("house.newRecipe2") : value.name} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <RecipeNames isNew={isNew} edited={edited} set={set} />
        <RecipeCohorts edited={edited} setEdited={setEdited} />
        <AudienceField
          value={edited.audience}
          onChange={set("audience")}
          each={edited.each}
          autoFocus={!isNew}
        />
        {edited.each !== "house" && edited.each !== "level" && (
          <Field
            label={t("house.onlyWhereAConditionOn")}
            value={edited.condition}
            onChange={(event) => set("condition")(event.target.value)}
            maxLength={500}
            placeholder={t("house.siteIsMainBuilding")}
            className="[&_input]:font-mono [&_input]:text-[12.5px]"
          />
        )}
        <RecipePattern
          edited={edited}
          set={set}
          pattern={pattern}
          renames={renames}
          me={me}
          aliasUntil={aliasUntil}
          setAliasUntil={setAliasUntil}
        />
        {making.data === undefined ? (
          making.error === undefined ? (
            <Loading what={t("house.theRules")} />
          ) : (
            <FaultLine error={making.error} />
          )
        ) : (
          <RuleFields
            value={draftOf(edited)}
            onChange={(draft) => setEdited(withDraft(edited, draft))}
            making={making.data}
            ofRecipe
            kind={kindOfText(edited.audience)}
            hasCoach={
              edited.each === "class" || edited.each === "team" || edited.each === "committee"
            }
          />
        )}
        <RecipeSeason edited={edited} set={set} />
        <RecipeButtons onClose={onClose} edited={edited} pattern={pattern} />
      </form>
    </Modal>
  );
}

function draftOf(value: Value): RulesDraft {
  return {
    preset: value.preset,
    leads: value.leads,
    helpers: value.helpers ?? "",
    adding: value.adding,
    own: Object.fromEntries(
      RULE_IDS.flatMap((id) => (value[id] === undefined ? [] : [[id, value[id]]])),
    ),
  };
}

function withDraft(value: Value, { own: ownRules, ...running }: RulesDraft): Value {
  return {
    ...Object.fromEntries(
      Object.entries(value).filter(([key]) => !RULE_IDS.some((id) => id === key)),
    ),
    ...running,
    ...ownRules,
  } as Value;
}

function RecipeNames({
  isNew,
  edited,
  set,
}: {
  isNew: boolean;
  edited: Value;
  set: <Key extends keyof Value>(key: Key) => (part: Value[Key]) => void;
}) {
  return (
    <div className="grid gap-3 md:grid-cols-[2fr_1fr]">
      <Field
        label={t("house.nameOfTheRecipe")}
        autoFocus={isNew}
        value={edited.name}
        onChange={(event) => set("name")(event.target.value)}
        maxLength={80}
        placeholder={t("house.guardiansOfEachClass")}
      />
      <Field
        label={t("house.itsColumnOnTheBoard")}
        value={edited.label}
        onChange={(event) => set("label")(event.target.value)}
        maxLength={30}
        placeholder={t("house.guardians")}
      />
    </div>
  );
}

function RecipeCohorts({
  edited,
  setEdited,
}: {
  edited: Value;
  setEdited: Dispatch<SetStateAction<Value>>;
}) {
  return (
    <p>
      <Rich
        id="house.itMakesAListFor"
        choice={
          <Choice
            small
            label={t("house.for")}
            value={edited.each}
            onChange={(each) =>
              setEdited({
                ...edited,
                each,
                leads:
                  each === "site" || each === "level" || each === "house"
                    ? edited.leads === "coach"
                      ? ""
                      : edited.leads
                    : edited.leads,
              })
            }
            options={EACH}
          />
        }
      />
    </p>
  );
}

function RecipePattern({
  edited,
  set,
  pattern,
  renames,
  me,
  aliasUntil,
  setAliasUntil,
}: {
  edited: Value;
  set: <Key extends keyof Value>(key: Key) => (part: Value[Key]) => void;
  pattern: ReturnType<typeof readPattern>;
  renames: boolean;
  me: Me;
  aliasUntil: string;
  setAliasUntil: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div>
      <Field
        label={t("house.namePattern")}
        value={edited.pattern}
        onChange={(event) => set("pattern")(event.target.value)}
        maxLength={120}
        className="[&_input]:font-mono [&_input]:text-[12.5px]"
        help={t("house.partsEachCanBeWritten", {
          list: PARTS.map((part) => `{${part}}`).join(" "),
        })}
      />
      {!pattern.ok && (
        <p role="status" className="mt-1 text-[13px] text-marigold-ink">
          <b>! </b>
          {say(pattern.fault.sentence)}
        </p>
      )}
      {renames && (
        <DayField
          label={t("house.oldAddressesWorkUntil")}

          min={today(me.timeZone)}
          value={aliasUntil}
          onChange={setAliasUntil}
          className="mt-2 w-56"
        />
      )}
    </div>
  );
}

function RecipeSeason({
  edited,
  set,
}: {
  edited: Value;
  set: <Key extends keyof Value>(key: Key) => (part: Value[Key]) => void;
}) {
  return (
    <p>
      <Rich
        id="house.itIsFor"
        choice={
          <Choice
            small
            label={t("house.forWhichSeasons")}
            value={edited.season}
            onChange={set("season")}
            options={[
              { value: "every season", name: t("house.everySeason") },
              { value: "this season only", name: t("house.thisSeasonOnly") },
            ]}
          />
        }
      />
    </p>
  );
}

function RecipeButtons({
  onClose,
  edited,
  pattern,
}: {
  onClose: () => void;
  edited: Value;
  pattern: ReturnType<typeof readPattern>;
}) {
  return (
    <div className="flex justify-end gap-2">
      <Button onClick={onClose}>{t("house.close")}</Button>
      <Button
        type="submit"
        look="go"
        disabled={
          edited.name.trim() === "" ||
          edited.label.trim() === "" ||
          edited.audience.trim() === "" ||
          !pattern.ok
        }
      >
        {t("house.preview")}
      </Button>
    </div>
  );
}
