import type { ListPage as List } from "@amigo/contract/lists";
import { RuleSentences } from "../rules/RuleSentences";
import { Rich, t } from "../texts/list";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";

/** Who belongs on a list and its posting rules as sentences, and in which points it differs from its recipe. */
export function ListRules({
  list,
  onReturn,
}: {
  list: List;
  /** Takes a point back to what the recipe says. */
  onReturn: (point: List["apart"][number]) => void;
}) {
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-1.5">{t("list.rules")}</h2>
      <p className="border-t border-hair-soft py-1.5 leading-normal">
        <Rich
          id="list.for"
          audienceSentence={
            <b className="rounded bg-petrol-soft px-1.5 py-px font-semibold text-petrol">
              {list.audienceSentence
                .replace(/\.$/, "")
                .replace(/^(The|All) /, (start) => start.toLowerCase())}
            </b>
          }
        />
      </p>
      <RuleSentences rules={list.rules} notes={list.notes} />
      {list.apart.length === 0 ? (
        <p className="border-t border-hair-soft pt-1.5 text-[13px] text-ink-3">
          {list.recipe === null
            ? t("list.aListOfItsOwn", { name: list.preset.name })
            : t("list.fromThePresetByThe", { name: list.preset.name })}
        </p>
      ) : (
        <div className="border-t border-hair-soft pt-1.5 text-[13px]">
          <p className="text-marigold-ink">
            <Rich id="list.changedFromItsRecipe" b={<b>! </b>} />
          </p>
          <ul>
            {list.apart.map((apart) => (
              <li key={apart.point} className="flex items-center gap-2 py-0.5">
                <span className="flex-1">{apart.words}</span>
                {list.may.change && (
                  <Button
                    className="min-h-[24px]! px-2! text-[13px]"
                    onClick={() => onReturn(apart)}
                  >
                    <Rich
                      id="list.returnToTheRecipeIn"
                      words={apart.words}
                      span={(chunks) => <span className="sr-only">{chunks}</span>}
                    />
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
    </Panel>
  );
}
