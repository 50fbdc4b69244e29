import type { Dispatch, SetStateAction } from "react";
import { say } from "@amigo/language/say";
import { PARTS, type readPattern } from "@amigo/core/naming/pattern";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { today } from "../ui/time";
import { DayField } from "../ui/DayField";
import { Rich, t } from "../texts/house";
import type { Me } from "@amigo/contract/accounts";
import type { House } from "@amigo/contract/house";

export function RecipeNames({
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

export function RecipeCohorts({
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

export function RecipePattern({
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

export function RecipeSeason({
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

export function RecipeButtons({
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

export type Value = House["recipes"][number]["value"];

export const EACH = [
  { value: "class", name: t("house.eachClass") },
  { value: "team", name: t("house.eachTeam") },
  { value: "committee", name: t("house.eachCommittee") },
  { value: "site", name: t("house.eachSite") },
  { value: "level", name: t("house.eachLevel") },
  { value: "house", name: t("house.theWholeHouseOneList") },
] as const;
