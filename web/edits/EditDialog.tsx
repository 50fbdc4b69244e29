import { useRef, useState } from "react";
import type { EditPlan, EditWanted } from "@amigo/contract/edits";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { useCarryOutEditMutation, usePlannedEditQuery } from "../data/edits";
import type { RequestWanted } from "../data/requests";
import { AskPermission } from "../rules/AskPermission";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Minus, Plus, Tilde } from "../ui/Signs";
import { Guards, unpassed } from "./Guards";
import { ListDeltas } from "./ListDeltas";

/** What an edit of recipes, lists or names would do today, as a round, and the button that carries it out. */
export function EditDialog({
  title,
  edit,
  onClose,
  onDone,
  onAsked = onDone,
}: {
  title: string;
  edit: EditWanted;
  onClose: () => void;
  onDone: (sentence: string) => void;
  /** What follows where permission was asked for instead. */
  onAsked?: (sentence: string) => void;
}) {
  const { data: plan, error, refetch } = usePlannedEditQuery(edit);
  const [carryOut, carrying] = useCarryOutEditMutation();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const asking = error === undefined || !("field" in error) ? undefined : askFor(edit, error);
  const asked = useRef<{ abort: () => void }>(undefined);
  const run = async (): Promise<void> => {
    if (plan === undefined) return;
    const request = carryOut({
      edit,
      version: plan.version,
      passed: Object.fromEntries(plan.guards.map(({ id }) => [id, Number(typed[id])])),
    });
    asked.current = request;
    const { data } = await request;
    // Something may have changed meanwhile: what it does is worked out again, to be looked at once more.
    if (data === undefined) void refetch();
    else onDone(t("ui.doneInRoundItCan", { round: data.round }));
  };
  return (
    <Modal wide title={title} onClose={onClose}>
      <FaultLine error={error} />
      {asking !== undefined && <AskPermission wanted={asking} onAsked={onAsked} />}
      {error !== undefined && (
        <div className="mt-3 flex justify-end">
          <Button onClick={onClose}>{t("ui.back")}</Button>
        </div>
      )}
      {error === undefined && plan === undefined && <Loading what={t("ui.whatItWouldDo")} />}
      {error === undefined && plan !== undefined && (
        <div className="flex flex-col gap-3">
          <p className="text-ink-2">{t("ui.thisIsCarriedOutAs")}</p>
          <Guards
            guards={plan.guards}
            typed={typed}
            onType={(id, value) => setTyped({ ...typed, [id]: value })}
          />
          {plan.causes.length === 0 ? (
            <p>{t("ui.thisChangesNothingEverythingIs")}</p>
          ) : (
            <PlanBody plan={plan} />
          )}
          <FaultLine error={carrying.error} />
          {carrying.isLoading ? (
            <Progress what={t("ui.carryingItOut")} onStop={() => asked.current?.abort()} />
          ) : (
            <EditButtons plan={plan} onClose={onClose} typed={typed} run={run} />
          )}
        </div>
      )}
    </Modal>
  );
}

/** What can be asked for when a house rule, or the convention that binds, stands in the way of an edit of one list. */
function askFor(
  edit: EditWanted,
  { type, field }: { type: string; field: string | undefined },
): Omit<RequestWanted, "why"> | undefined {
  const [list] = edit.what === "lists" && edit.lists.length === 1 ? edit.lists : [];
  if (list === undefined || edit.what !== "lists") return undefined;
  if (type === "edit/convention" && typeof list.points.name === "string")
    return { list: list.key, rule: "convention", wanted: list.points.name, work: { edit } };
  const rule = type === "edit/house-rule" ? RULE_IDS.find((id) => id === field) : undefined;
  const wanted = rule === undefined ? undefined : list.points[rule];
  return rule === undefined || typeof wanted !== "string"
    ? undefined
    : { list: list.key, rule, wanted, work: { edit } };
}

function PlanBody({ plan }: { plan: EditPlan }) {
  return (
    <>
      <ListDeltas lists={plan.lists} />
      {plan.lists.length === 0 && (
        <ul aria-label={t("ui.whatItDoes")}>
          {plan.causes.map(({ kind, title, detail }) => (
            <li key={`${kind} ${title} ${detail}`} className="border-t border-hair-soft py-1.5">
              <b className="font-[620]">{title}</b> <span className="text-ink-2">{detail}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function EditButtons({
  plan,
  onClose,
  typed,
  run,
}: {
  plan: EditPlan;
  onClose: () => void;
  typed: Record<string, string>;
  run: () => Promise<void>;
}) {
  return (
    <div className="flex items-center justify-end gap-2">
      <span className="mr-auto flex gap-3">
        <Plus count={plan.totals.joins} />
        <Minus count={plan.totals.leaves} />
        <Tilde count={plan.totals.replaced} />
      </span>
      <Button onClick={onClose}>{t("ui.back")}</Button>
      <Button
        look="go"
        autoFocus
        disabled={plan.causes.length === 0 || unpassed(plan.guards, typed).length > 0}
        onClick={() => void run()}
      >
        {plan.lists.length === 0
          ? t("ui.carryItOut")
          : t("ui.carryItOutOnLists", { lists: plan.totals.lists })}
      </Button>
    </div>
  );
}
