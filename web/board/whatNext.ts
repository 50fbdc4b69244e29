import type { Board } from "@amigo/contract/board";
import { t } from "../texts/board";

/** What to do next, and where. */
export interface Step {
  sentence: string;
  button: string;
  to: string;
}

/** Returns the most urgent thing that the board shows, or nothing where all lists match and all families are reached. */
export function whatNext(board: Board): Step | undefined {
  if (board.openCauses > 0)
    return {
      sentence:
        board.outOfStep === 0
          ? t("board.yourSheetsHaveChangedReview")
          : t("board.listsFromYourSheetsReview", { outOfStep: board.outOfStep }),
      button: t("board.reviewChanges", { openCauses: board.openCauses }),
      to: "/changes",
    };
  const rows = board.sites.flatMap((site) => site.rows);
  if (rows.some(({ students, reached }) => reached < students))
    return {
      sentence: t("board.allListsAreInStep"),
      button: t("board.seeWhoIsMissing"),
      to: "/reach",
    };
  return undefined;
}
