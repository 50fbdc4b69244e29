import { useParams } from "react-router";
import { useIntakeQuery } from "../data/intakes";
import { FaultPage, Loading } from "../ui/Page";
import { t } from "../texts/intakes";
import { Intake } from "./Intake";

/** One intake: the sheet that several people fill at once, and the result of each row. */
export function IntakePage() {
  const { id = "" } = useParams();
  const { data, error } = useIntakeQuery(id);
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("intakes.theIntake")} />
    ) : (
      <FaultPage error={error} />
    );
  return <Intake key={id} page={data} />;
}
