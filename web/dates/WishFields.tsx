import type { ImportWishes } from "@amigo/contract/dateImport";
import { useAllListsQuery } from "../data/lists";
import { t } from "../texts/dates";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";

/** Under which name dates are imported, and for which lists. */
export function WishFields({
  wishes: { name, list, group },
  set,
}: {
  wishes: ImportWishes;
  set: (part: Partial<ImportWishes>) => void;
}) {
  const { data: all } = useAllListsQuery("");
  const open = (all?.lists ?? []).filter(({ state }) => state === "open");
  return (
    <>
      <Field
        label={t("dates.importName")}
        help={t("dates.importNameHelp")}
        required
        maxLength={80}
        value={name}
        onChange={(event) => set({ name: event.target.value })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <span>{t("dates.aTeamsDatesGoTo")}</span>
        <Choice
          label={t("dates.aTeamsDatesGoTo")}
          value={group}
          options={[
            { value: "", name: t("dates.itsOnlyList") },
            ...groupsIn(open.map(({ title }) => title)).map((value) => ({ value, name: value })),
          ]}
          onChange={(value) => set({ group: value })}
        />
        <span>{t("dates.datesWithoutATeamGoTo")}</span>
        <Choice
          label={t("dates.datesWithoutATeamGoTo")}
          value={list}
          options={[
            { value: "", name: t("dates.noList") },
            ...open.map(({ id, title }) => ({ value: id, name: title })),
          ]}
          onChange={(value) => set({ list: value })}
        />
      </div>
    </>
  );
}

/** The ends of lists' titles behind the last comma, the most frequent first: `guardians`, `students`. */
function groupsIn(titles: readonly string[]): string[] {
  const counted = new Map<string, number>();
  for (const title of titles) {
    const end = title.includes(",") ? title.slice(title.lastIndexOf(",") + 1).trim() : "";
    if (end !== "") counted.set(end, (counted.get(end) ?? 0) + 1);
  }
  return [...counted].sort(([, a], [, b]) => b - a).map(([end]) => end);
}
