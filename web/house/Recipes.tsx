import { keepsCaseIn } from "@amigo/core/lists/listParts";
import { useState, type Dispatch, type SetStateAction } from "react";
import { conditionPhrase } from "@amigo/core/audience/audienceSentence";
import { understoodCondition } from "@amigo/core/lists/understood";
import type { EditWanted } from "@amigo/contract/edits";
import type { House } from "@amigo/contract/house";
import { Button } from "../ui/Button";
import { EditDialog } from "../edits/EditDialog";
import { Panel } from "../ui/Page";
import { RecipeDialog } from "./RecipeDialog";
import { Rich, t } from "../texts/house";

type Recipe = House["recipes"][number];

const EACH_WORDS = {
  class: t("house.eachClass"),
  team: t("house.eachTeam"),
  committee: t("house.eachCommittee"),
  site: t("house.eachSite"),
  level: t("house.eachLevel"),
  house: t("house.theWholeHouseOneList"),
} as const;

/** The standing rules that make lists, each with what it makes. Editing one shows first what it would change. */
export function Recipes({ house }: { house: House }) {
  const [editing, setEditing] = useState<Recipe | "new">();
  const [ending, setEnding] = useState<{ title: string; edit: EditWanted }>();
  const [said, setSaid] = useState("");
  const next = Math.max(0, ...house.recipes.map(({ id }) => id)) + 1;
  const blank: Recipe["value"] = {
    name: "",
    label: "",
    ...(keepsCaseIn(house.language) ? { keepsCase: true } : {}),
    position: next,
    each: "class",
    condition: "",
    audience: "",
    pattern: "{site}-{class}-{audience}-{season}",
    preset: "announcement-only",
    leads: "coach",
    adding: "quietly",
    season: "every season",
  };
  return (
    <>
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <div className="mb-2.5 flex items-center gap-3">
        <p className="text-ink-2">{t("house.eachRecipeMakesItsLists")}</p>
        <Button look="go" className="ml-auto" onClick={() => setEditing("new")}>
          {t("house.newRecipe2")}
        </Button>
      </div>
      <Panel>
        <RecipeRows house={house} setEditing={setEditing} setEnding={setEnding} />
      </Panel>
      {editing !== undefined && (
        <RecipeDialog
          number={editing === "new" ? next : editing.id}
          value={editing === "new" ? blank : editing.value}
          isNew={editing === "new"}
          onClose={() => setEditing(undefined)}
          onDone={(sentence) => {
            setEditing(undefined);
            setSaid(sentence);
          }}
        />
      )}
      {ending !== undefined && (
        <EditDialog
          {...ending}
          onClose={() => setEnding(undefined)}
          onDone={(sentence) => {
            setEnding(undefined);
            setSaid(sentence);
          }}
        />
      )}
    </>
  );
}

function RecipeRows({
  house,
  setEditing,
  setEnding,
}: {
  house: House;
  setEditing: Dispatch<SetStateAction<"new" | Recipe | undefined>>;
  setEnding: Dispatch<SetStateAction<{ title: string; edit: EditWanted } | undefined>>;
}) {
  return (
    <ul>
      {house.recipes.map((recipe) => {
        const { id, value, sentence, lists, apart, waiting, example } = recipe;
        const condition = understoodCondition(value.condition);
        return (
          <li
            key={id}
            className="grid items-start gap-x-4 gap-y-1 md:grid-cols-[minmax(0,1.1fr)_minmax(0,1.6fr)_auto] border-b border-hair-soft px-4 py-3 last:border-b-0"
          >
            <div>
              <b className="block font-[640]">{value.name}</b>
              <span className="text-[13px] text-ink-2">
                <Rich
                  id="house.for3"
                  each={EACH_WORDS[value.each]}
                  condition={
                    condition.ok &&
                    condition.condition !== undefined && (
                      <> {t("house.whose", { condition: conditionPhrase(condition.condition) })}</>
                    )
                  }
                />
              </span>
              <span className="block text-[13px] text-ink-3">
                {t("house.lists2", {
                  lists,
                  apart,
                })}
              </span>
              {waiting > 0 && (
                <span className="block text-[13px] text-ink-2">
                  {t("house.listsMadeYetNoStudent", { waiting })}
                </span>
              )}
            </div>
            <div className="text-[13px]">
              <p>{sentence}</p>
              <p className="mono mt-0.5 wrap-anywhere text-ink-2">
                {value.pattern}
                {example !== "" && <span className="text-ink-3"> → {example}</span>}
              </p>
            </div>
            <div className="flex gap-2">
              <Button onClick={() => setEditing(recipe)}>
                <Rich id="house.edit" name={<span className="sr-only"> {value.name}</span>} />
              </Button>
              <Button
                look="quiet"
                onClick={() =>
                  setEnding({
                    title: t("house.removeTheRecipe", { name: value.name }),
                    edit: { what: "recipe", recipe: id, value: null, aliasUntil: "" },
                  })
                }
              >
                <Rich id="house.remove" name={<span className="sr-only"> {value.name}</span>} />
              </Button>
            </div>
          </li>
        );
      })}
    </ul>
  );
}
