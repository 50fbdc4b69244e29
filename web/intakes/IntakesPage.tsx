import { useState } from "react";
import { Link } from "react-router";
import { useIntakesQuery } from "../data/intakes";
import { Button } from "../ui/Button";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { IntakeDialog } from "./IntakeDialog";
import { WideTable } from "../ui/WideTable";
import { t } from "../texts/intakes";
import type { IntakeLine } from "@amigo/contract/intakes";

/** The intakes of the season that one fills, looks after or approves. */
export function IntakesPage() {
  const { data, error } = useIntakesQuery();
  const [making, setMaking] = useState(false);
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("intakes.theAdditions")} />
    ) : (
      <FaultPage error={error} />
    );
  const make = data.mayMake ? (
    <Button look="go" onClick={() => setMaking(true)}>
      {t("intakes.makeASheet")}
    </Button>
  ) : null;
  return (
    <div>
      <PageHead
        title={t("intakes.additions")}
        line={
          data.intakes.length === 0
            ? t("intakes.noneYet")
            : t("intakes.sharedSheets", { intakes: data.intakes.length })
        }
      >
        {make}
      </PageHead>
      {data.intakes.length === 0 ? (
        <Panel>
          <NoIntakes data={data} />
        </Panel>
      ) : (
        <Panel>
          <WideTable label={t("intakes.sharedSheets2")} className="w-full">
            <thead>
              <tr className="border-b border-hair text-left text-[12px] text-ink-3">
                {[
                  t("intakes.sheet"),
                  t("intakes.rows"),
                  t("intakes.toApprove"),
                  t("intakes.added"),
                  t("intakes.carriedOut"),
                ].map((title) => (
                  <th key={title} className="px-4 py-1.5 font-[500]">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.intakes.map(({ id, name, by, rows, toApprove, added, when }) => (
                <IntakeRow
                  key={id}
                  id={id}
                  name={name}
                  by={by}
                  rows={rows}
                  toApprove={toApprove}
                  added={added}
                  when={when}
                />
              ))}
            </tbody>
          </WideTable>
        </Panel>
      )}
      {making && <IntakeDialog page={undefined} onClose={() => setMaking(false)} />}
    </div>
  );
}

function NoIntakes({ data }: { data: { intakes: IntakeLine[]; mayMake: boolean } }) {
  return (
    <Empty
      title={
        data.mayMake ? t("intakes.letColleaguesBringPeopleIn") : t("intakes.youHaveNoSheetsYet")
      }
    >
      <p>
        {data.mayMake
          ? t("intakes.colleaguesFillASharedSheet")
          : t("intakes.whoeverMakesASheetChooses")}
      </p>
    </Empty>
  );
}

function IntakeRow({
  id,
  name,
  by,
  rows,
  toApprove,
  added,
  when,
}: {
  id: string;
  name: string;
  by: string;
  rows: number;
  toApprove: number;
  added: number;
  when: string;
}) {
  return (
    <tr className="border-b border-hair-soft align-baseline last:border-b-0 hover:bg-sunk">
      <td className="px-4 py-2">
        <Link to={`/intakes/${id}`} className="font-[620] hover:underline">
          {name}
        </Link>
        <span className="block text-[13px] text-ink-3">{t("intakes.madeBy", { by })}</span>
      </td>
      <td className="px-4 py-2">{rows}</td>
      <td className="px-4 py-2">{toApprove === 0 ? "–" : <Warn>{toApprove}</Warn>}</td>
      <td className="px-4 py-2">{added}</td>
      <td className="px-4 py-2 text-ink-2">{when}</td>
    </tr>
  );
}
