import { inOrder } from "@amigo/language/inOrder";
import type { Board } from "@amigo/contract/board";
import { t } from "../texts/board";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { SearchField } from "../ui/SearchField";
import type { readFilters } from "./filterBoard";

/** What narrows the board: words, a site, a lead, lists in some state; and the order of its classes. */
export function BoardFilters({
  board,
  filters,
  isNarrowed,
  onFilter,
  onClear,
}: {
  board: Board;
  filters: ReturnType<typeof readFilters>;
  isNarrowed: boolean;
  onFilter: (name: string, value: string) => void;
  onClear: () => void;
}) {
  const leads = leadsOn(board);
  return (
    <div className="mb-2.5 flex flex-wrap items-center gap-2">
      <SearchField
        label={t("board.searchTheBoard")}
        placeholder={t("board.classListOrCoach")}
        value={filters.q}
        onChange={(value) => onFilter("q", value)}
        className="w-44"
      />
      {board.sites.length > 1 && (
        <Choice
          label={t("board.sitesShown")}
          value={filters.site}
          onChange={(value) => onFilter("site", value)}
          options={[
            { value: "", name: t("board.allSites") },
            ...board.sites.map(({ name }) => ({ value: name, name })),
          ]}
        />
      )}
      {leads.length > 1 && (
        <Choice
          label={t("board.lead")}
          value={filters.lead}
          onChange={(value) => onFilter("lead", value)}
          options={[
            { value: "", name: t("board.everyLead") },
            ...leads.map((name) => ({ value: name, name })),
          ]}
        />
      )}
      <Choice
        label={t("board.listsShown")}
        value={filters.only}
        onChange={(value) => onFilter("only", value)}
        options={[
          { value: "", name: t("board.everyList") },
          { value: "step", name: t("board.outOfStep2") },
          { value: "mine", name: t("board.mine") },
          { value: "missing", name: t("board.missingLists") },
          { value: "unreached", name: t("board.familiesNotReached") },
        ]}
      />
      <Choice
        label={t("board.orderOfTheClasses")}
        value={filters.byTrouble ? "trouble" : ""}
        onChange={(value) => onFilter("order", value)}
        options={[
          { value: "", name: t("board.byName") },
          { value: "trouble", name: t("board.mostTroubleFirst") },
        ]}
      />
      {isNarrowed && (
        <Button look="quiet" onClick={onClear}>
          {t("board.showEverything")}
        </Button>
      )}
    </div>
  );
}

/** Returns the names of everybody who leads a list on the board, sorted. */
function leadsOn({ sites, others }: Board): string[] {
  const cells = sites.flatMap(({ rows }) => rows.flatMap((row) => row.cells));
  const names = new Set([...cells, ...others].flatMap(({ leads }) => leads));
  return [...names].sort((a, b) => inOrder(a, b));
}
