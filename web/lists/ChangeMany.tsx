import { useState, type FormEvent } from "react";
import { counted } from "@amigo/core/text/sentence";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import type { EditWanted } from "@amigo/contract/edits";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import { useMakingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Modal } from "../ui/Modal";

const CHOICES = RULE_IDS.filter((id) => ALL_RULES[id].form === "choice");
type What = "leads" | "preset" | "adding" | "season" | "state" | RuleId;
const WHAT: readonly { value: What; name: string }[] = [
  { value: "leads", name: "Who leads them" },
  { value: "preset", name: "Posting rules" },
  ...CHOICES.map((id) => ({ value: id, name: ALL_RULES[id].words })),
  { value: "adding", name: "How members come onto them" },
  { value: "season", name: "For which seasons" },
  { value: "state", name: "Close or open them" },
];
const ADDING = [
  { value: "quietly", name: "quietly" },
  { value: "welcome", name: "with its welcome" },
  { value: "ask", name: "once they have said yes" },
];

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
    withRecipe && what !== "state" ? [{ value: "recipe", name: "as the recipe has it" }] : [];
  const choices: readonly { value: string; name: string }[] = [
    ...(what === "leads"
      ? [
          { value: "coach", name: "the coach of the class" },
          { value: "nobody", name: "nobody" },
          ...(making?.staff ?? []).map(({ id, name }) => ({ value: id, name })),
        ]
      : what === "season"
        ? [
            { value: "every season", name: "every season" },
            { value: "this season only", name: "this season only" },
          ]
        : what === "state"
          ? [
              { value: "closed", name: "closed" },
              { value: "open", name: "open" },
            ]
          : what === "adding"
            ? ADDING
            : what === "preset"
              ? (making?.presets ?? []).map(({ id, name }) => ({ value: id, name }))
              : ALL_RULES[what].values.map((own) => ({ value: own.value, name: own.words }))),
    ...back,
  ];
  const chosen = choices.find((choice) => choice.value === value) ?? choices[0];
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (chosen === undefined) return;
    const point: ListPoint = what;
    const own = chosen.value === "recipe" ? null : chosen.value === "nobody" ? "" : chosen.value;
    onSee({
      title:
        what === "state"
          ? `${own === "closed" ? "Close" : "Open"} ${counted(lists.length, "list")}`
          : `Change ${counted(lists.length, "list")}`,
      edit: {
        what: "lists",
        aliasUntil: "",
        lists: lists.map(({ key }) => ({ key, points: { [point]: own } })),
      },
    });
  };
  return (
    <Modal title={`Change ${counted(lists.length, "list")}`} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <p>
          <Choice
            label="What to change"
            value={what}
            onChange={(next) => {
              setWhat(next);
              setValue("");
            }}
            options={WHAT}
          />{" "}
          <span className="mx-1">:</span>{" "}
          <Choice
            label="To what"
            value={chosen?.value ?? ""}
            onChange={setValue}
            options={choices}
          />
        </p>
        <p className="max-h-40 overflow-auto text-[13px] text-ink-2">
          {lists.map(({ title }) => title).join(" · ")}
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" look="go">
            See what it changes
          </Button>
        </div>
      </form>
    </Modal>
  );
}
