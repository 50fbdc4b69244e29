import type { ReadingPage } from "@amigo/contract/readings";
import { Link } from "react-router";
import { Choice } from "../ui/Choice";
import { Warn } from "../ui/Signs";
import { countFaults } from "./useFaultSteps";
import { Rich, t } from "../texts/sources";

/** The line above an import's sheet: how many rows it has, whom it knew, what is to decide, and which sheet is shown. */
export function ReadingHead({
  page,
  sheet,
  onSheet,
}: {
  page: ReadingPage;
  /** The sheet on the screen, by its place. */
  sheet: number;
  onSheet: (sheet: number) => void;
}) {
  const { plan, reading: line } = page;
  const setAside = page.read.reduce((sum, part) => sum + part.aside.length, 0);
  const counts = countFaults(page.faults);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-3.5 py-2 text-[13px] text-ink-2">
      <span>
        <Rich
          id="sources.rowsSetAside"
          rows={<b className="font-[650] text-ink">{line.rows}</b>}
          setAside={setAside}
        />
      </span>
      <span>
        <Rich
          id="sources.knownNew"
          known={<b className="font-[650] text-ink">{line.known}</b>}
          fresh={<b className="font-[650] text-ink">{line.fresh}</b>}
        />
      </span>
      {page.questions > 0 && (
        <Link to="/people?show=questions" className="hover:underline">
          <Warn>{t("sources.questions", { questions: page.questions })}</Warn>
        </Link>
      )}
      <span>
        {counts.toDecide > 0 ? (
          <Warn>
            <Rich
              id="sources.faultsToDecideMended"
              faults={<b>{counts.faults}</b>}
              toDecide={counts.toDecide}
              fixed={counts.fixed}
            />
          </Warn>
        ) : (
          t("sources.faultsAllMended", {
            faults: counts.faults,
            isFaults: String(counts.faults > 0),
          })
        )}
      </span>
      {counts.bouncing > 0 && (
        <span>
          <Warn>{t("sources.bouncing", { bouncing: counts.bouncing })}</Warn>
        </span>
      )}
      <span className="ml-auto flex min-w-0 items-center gap-1.5 truncate">
        <Rich
          id="sources.of"
          sheet={
            page.read.length > 1 ? (
              <Choice
                small
                label={t("sources.sheet")}
                value={String(sheet)}
                onChange={(value) => onSheet(Number(value))}
                options={page.read.map(({ name }, at) => ({
                  value: String(at),
                  name: t("sources.sheet2", { name }),
                }))}
              />
            ) : (
              <>
                <Rich
                  id="sources.sheet3"
                  sheet={<b className="font-[620] text-ink">{plan.sheet}</b>}
                />
              </>
            )
          }
          sheets={page.sheets.length}
        />
      </span>
    </div>
  );
}
