import type { Dispatch, SetStateAction } from "react";
import type { IntakePage as Page } from "@amigo/contract/intakes";
import { type useSetWatchMutation } from "../data/intakes";
import { t } from "../texts/intakes";
import { Button } from "../ui/Button";
import { PageHead } from "../ui/Page";

const HOW_WORDS = {
  quietly: t("intakes.addedQuietly"),
  welcome: t("intakes.addedWithAWelcome"),
  ask: t("intakes.askedFirst"),
} as const;

export function IntakeHead({
  page,
  undecided,
  setWatch,
  setChanging,
}: {
  page: Page;
  undecided: number;
  setWatch: ReturnType<typeof useSetWatchMutation>[0];
  setChanging: Dispatch<SetStateAction<boolean>>;
}) {
  return (
    <PageHead
      title={page.name}
      line={t("intakes.rowsToApproveCarriedOut", {
        rows: page.rows.length,
        undecided,
        when: page.when,
        how: HOW_WORDS[page.content.how],
      })}
    >
      <Button
        aria-pressed={page.watching}
        onClick={() => void setWatch({ what: "intake", id: page.id, watching: !page.watching })}
        title={t("intakes.aMailWhenSomebodyWas")}
      >
        {page.watching ? t("intakes.stopWatching") : t("intakes.watch")}
      </Button>
      {page.may.change && <Button onClick={() => setChanging(true)}>{t("intakes.change2")}</Button>}
    </PageHead>
  );
}
