import { useState, type FormEvent } from "react";
import { readPattern } from "@amigo/core/naming/pattern";
import type { EditWanted } from "@amigo/contract/edits";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { useMakingQuery } from "../data/edits";
import { useMe } from "../data/me";
import { AudienceField } from "../audience/AudienceField";
import { EditDialog } from "../edits/EditDialog";
import { Field } from "../ui/Field";
import { FaultLine, Loading } from "../ui/Page";
import { kindOfText } from "../rules/kindOfText";
import { RuleFields } from "../rules/RuleFields";
import type { RulesDraft } from "../rules/rulesDraft";
import { Modal } from "../ui/Modal";
import { usualLastDay } from "../ui/time";
import { t } from "../texts/house";
import {
  RecipeNames,
  RecipeCohorts,
  RecipePattern,
  RecipeSeason,
  RecipeButtons,
  type Value,
} from "./RecipeParts";

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
