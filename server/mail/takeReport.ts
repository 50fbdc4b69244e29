import type { AggregateReport } from "@amigo/core/mail/reports/report";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import type { Taken } from "./incomingMail";
import { storeReport } from "./reportQueries";

/**
 * Takes a report that a receiver of our mail sends by itself, so that it stands in the table in Settings and isn't passed on as
 * mail. One whose sender isn't proven, or which is of other domains, is a mail like others.
 *
 * @returns whether it was taken
 */
export async function takeReport(
  tx: Queries,
  report: AggregateReport | undefined,
  { from, proof, house }: Pick<Taken, "from" | "proof" | "house">,
): Promise<boolean> {
  if (report === undefined || proof === "none" || report.ends < report.begins) return false;
  if (report.domain !== house.listDomain && report.domain !== house.insideDomain) return false;
  const reporter = from.address.slice(from.address.lastIndexOf("@") + 1);
  if (reporter === "") return false;
  await storeReport(tx, reporter, report);
  await notify(tx, "house");
  return true;
}
