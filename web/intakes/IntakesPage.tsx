import { useState } from "react";
import { Link } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import { useIntakesQuery } from "../data/intakes";
import { Button } from "../ui/Button";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { IntakeDialog } from "./IntakeDialog";
import { WideTable } from "../ui/WideTable";

/** The intakes of the season that one fills, looks after or approves. */
export function IntakesPage() {
  const { data, error } = useIntakesQuery();
  const [making, setMaking] = useState(false);
  if (data === undefined)
    return error === undefined ? <Loading what="the additions" /> : <FaultPage error={error} />;
  const make = data.mayMake ? (
    <Button look="go" onClick={() => setMaking(true)}>
      Make a sheet
    </Button>
  ) : null;
  return (
    <div>
      <PageHead
        title="Additions"
        line={data.intakes.length === 0 ? "None yet" : counted(data.intakes.length, "shared sheet")}
      >
        {make}
      </PageHead>
      {data.intakes.length === 0 ? (
        <Panel>
          <Empty title={data.mayMake ? "Let colleagues bring people in" : "You have no sheets yet"}>
            <p>
              {data.mayMake
                ? "Colleagues fill a shared sheet: who, which address, which list, until when. Nobody is added until you, or a lead of the list, approve the row."
                : "Whoever makes a sheet chooses who fills it. It appears here once you are one of them."}
            </p>
          </Empty>
        </Panel>
      ) : (
        <Panel>
          <WideTable label="Shared sheets" className="w-full">
            <thead>
              <tr className="border-b border-hair text-left text-[12px] text-ink-3">
                {["Sheet", "Rows", "To approve", "Added", "Carried out"].map((title) => (
                  <th key={title} className="px-4 py-1.5 font-[500]">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.intakes.map(({ id, name, by, rows, toApprove, added, when }) => (
                <tr
                  key={id}
                  className="border-b border-hair-soft align-baseline last:border-b-0 hover:bg-sunk"
                >
                  <td className="px-4 py-2">
                    <Link to={`/intakes/${id}`} className="font-[620] hover:underline">
                      {name}
                    </Link>
                    <span className="block text-[13px] text-ink-3">made by {by}</span>
                  </td>
                  <td className="px-4 py-2">{rows}</td>
                  <td className="px-4 py-2">{toApprove === 0 ? "–" : <Warn>{toApprove}</Warn>}</td>
                  <td className="px-4 py-2">{added}</td>
                  <td className="px-4 py-2 text-ink-2">{when}</td>
                </tr>
              ))}
            </tbody>
          </WideTable>
        </Panel>
      )}
      {making && <IntakeDialog page={undefined} onClose={() => setMaking(false)} />}
    </div>
  );
}
