import { useState, type FormEvent } from "react";
import { RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import type { EditWanted, Making } from "@amigo/contract/edits";
import type { ListPage } from "@amigo/contract/lists";
import { useMakingQuery } from "../data/edits";
import { useMe } from "../data/me";
import { AudienceField } from "../audience/AudienceField";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { RuleFields } from "../rules/RuleFields";
import { settledDraft, type RulesDraft } from "../rules/rulesDraft";
import { today, usualLastDay } from "../ui/time";
import { DayField } from "../ui/DayField";
import { t } from "../texts/list";

/** The points of one list. Where it has a recipe, what is changed here stands apart from it. */
export function EditList({
  list,
  onClose,
  onSee,
}: {
  list: ListPage;
  onClose: () => void;
  onSee: (edit: { title: string; edit: EditWanted }) => void;
}) {
  const { data: making, error } = useMakingQuery();
  if (error !== undefined || making === undefined)
    return (
      <Modal title={list.title} onClose={onClose}>
        {error === undefined ? <Loading what={t("list.theList")} /> : <FaultLine error={error} />}
      </Modal>
    );
  return <Form list={list} making={making} onClose={onClose} onSee={onSee} />;
}

/** The rules of a list as a draft: its preset, and in what it is otherwise. */
function draftOf(list: ListPage, making: Making): RulesDraft {
  const staff = new Map(making.staff.map(({ id, name }) => [name, id]));
  const ids = (names: readonly string[]): string =>
    names.flatMap((name) => staff.get(name) ?? []).join(" ");
  const recipe = making.recipes.find(({ id }) => id === list.recipe?.id);
  const byCoach = recipe?.leads === "coach" && !list.apart.some(({ point }) => point === "leads");
  const draft = {
    preset: list.preset.id,
    leads: byCoach ? "coach" : ids(list.leads),
    helpers: ids(list.helpers),
    adding: list.adding,
    own: {},
  };
  const plain = settledDraft(draft, making, list.kind);
  return {
    ...draft,
    own: Object.fromEntries(
      RULE_IDS.filter((id) => list.rules[id] !== plain[id]).map((id) => [id, list.rules[id]]),
    ),
  };
}

const TEXTS = ["title", "description", "short", "name", "audience"] as const;

function Form({
  list,
  making,
  onClose,
  onSee,
}: {
  list: ListPage;
  making: Making;
  onClose: () => void;
  onSee: (edit: { title: string; edit: EditWanted }) => void;
}) {
  const me = useMe();
  const [before] = useState(() => draftOf(list, making));
  const [draft, setDraft] = useState(before);
  const [edited, setEdited] = useState({
    title: list.title,
    description: list.description,
    short: list.short,
    name: list.name,
    audience: list.audience,
  });
  const [aliasUntil, setAliasUntil] = useState(usualLastDay(me.timeZone));
  const set =
    <Key extends keyof typeof edited>(key: Key) =>
    (part: string): void =>
      setEdited({ ...edited, [key]: part });
  const points: Partial<Record<ListPoint, string>> = Object.fromEntries([
    ...TEXTS.filter((key) => edited[key] !== list[key]).map((key) => [key, edited[key]]),
    ...(["preset", "leads", "helpers", "adding"] as const)
      .filter((key) => draft[key] !== before[key])
      .map((key) => [key, draft[key]]),
    ...changedRules(list, draft, making).map((id) => [
      id,
      settledDraft(draft, making, list.kind)[id],
    ]),
  ]);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onSee({
      title: t("list.previewChange", { title: list.title }),
      edit: {
        what: "lists",
        aliasUntil: edited.name === list.name ? "" : aliasUntil,
        lists: [{ key: list.key, points }],
      },
    });
  };
  const each = making.recipes.find(({ id }) => id === list.recipe?.id)?.each ?? "";
  return (
    <Modal wide title={t("list.change", { title: list.title })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <div className="grid sm:grid-cols-2 gap-3">
          <Field
            label={t("list.displayName")}
            value={edited.title}
            onChange={(event) => set("title")(event.target.value)}
            maxLength={120}
          />
          <Field
            label={t("list.shortNamesWithCommasBetween")}
            value={edited.short}
            onChange={(event) => set("short")(event.target.value)}
            maxLength={120}
            placeholder={t("list.n3aClass3a")}
          />
        </div>
        <Field
          label={t("list.description")}
          value={edited.description}
          onChange={(event) => set("description")(event.target.value)}
          maxLength={500}
          placeholder={t("list.whoItIsForAnd")}
        />
        <div className="grid sm:grid-cols-2 gap-3">
          <Field
            label={t("list.nameBeforeThe")}
            value={edited.name}
            spellCheck={false}
            onChange={(event) => set("name")(event.target.value.toLowerCase())}
            maxLength={64}
            className="[&_input]:font-mono [&_input]:text-[12.5px]"
          />
          {edited.name !== list.name && (
            <DayField
              label={t("list.theOldAddressWorksUntil")}

              min={today(me.timeZone)}
              value={aliasUntil}
              onChange={setAliasUntil}
            />
          )}
        </div>
        <AudienceField
          value={edited.audience}
          onChange={set("audience")}
          each={each}
          list={list.key}
        />
        <RuleFields
          list={list.id}
          value={draft}
          onChange={setDraft}
          making={making}
          kind={list.kind}
          hasCoach={each === "class" || each === "team" || each === "committee"}
        />
        {list.recipe !== null &&
          Object.keys(points).some(
            (key) => key !== "short" && key !== "description" && key !== "name",
          ) && <p className="text-[13px] text-ink-2">{t("list.whatYouChangeHereNo")}</p>}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("list.close")}</Button>
          <Button type="submit" look="go" disabled={Object.keys(points).length === 0}>
            {t("list.preview")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** The rules that would be otherwise than they are; what another preset settles need not be set by itself. */
function changedRules(list: ListPage, draft: RulesDraft, making: Making): RuleId[] {
  const now = settledDraft(draft, making, list.kind);
  const byPreset =
    draft.preset === list.preset.id
      ? {}
      : (making.presets.find(({ id }) => id === draft.preset)?.rules ?? {});
  const isApart = (id: RuleId): boolean =>
    list.recipe !== null || list.apart.some(({ point }) => point === id);
  return RULE_IDS.filter(
    (id) =>
      (now[id] !== list.rules[id] && !(byPreset[id] === now[id] && !isApart(id))) ||
      (byPreset[id] !== undefined && isApart(id) && now[id] !== list.rules[id]),
  );
}
