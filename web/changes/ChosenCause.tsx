import type { RoundPage } from "@amigo/contract/rounds";
import { t } from "../texts/changes";
import { Button } from "../ui/Button";
import { Empty, Loading, Panel } from "../ui/Page";
import { CauseDetail } from "./CauseDetail";
import type { RoundView } from "./useRoundView";

/** The chosen change with its evidence; on a narrow screen with the way back to all of them. */
export function ChosenCause({
  round,
  view: { position, outline, isLoading, setFilter },
  isNarrow,
  decidable,
  onDecide,
  onCorrect,
}: {
  round: RoundPage;
  view: RoundView;
  isNarrow: boolean;
  decidable: boolean;
  onDecide: (decision: "accepted" | "held") => void;
  onCorrect: () => void;
}) {
  const isEmpty = outline?.shown === 0;
  return (
    <Panel scrolls={t("changes.selectedChange")} className="min-w-0">
      {isNarrow && (
        <div className="px-3 pt-2">
          <Button look="quiet" onClick={() => setFilter("cause", "")}>
            {t("changes.allChanges")}
          </Button>
        </div>
      )}
      {position === undefined && isLoading ? (
        <Loading what={t("changes.theEvidence")} />
      ) : position === undefined ? (
        <Empty
          title={isEmpty ? t("changes.nothingMatchesYourFilters") : t("changes.chooseAChange")}
        >
          <p>{isEmpty ? t("changes.showAllChangesAgainAbove") : t("changes.openAClassOnThe")}</p>
        </Empty>
      ) : (
        <CauseDetail
          round={round.number}
          version={round.version}
          position={position}
          decidable={decidable}
          onDecide={onDecide}
          onCorrect={onCorrect}
        />
      )}
    </Panel>
  );
}
