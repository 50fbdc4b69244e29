import { sql } from "drizzle-orm";
import type { AggregateReport } from "@amigo/core/mail/reports/report";
import type { Queries } from "../db/connect";
import { mailReport, mailReportRow } from "../db/schema/mailReports";

/** Stores a report; one that has come before changes nothing. */
export async function storeReport(
  tx: Queries,
  reporter: string,
  { rows, ...report }: AggregateReport,
): Promise<void> {
  const [stored] = await tx
    .insert(mailReport)
    .values({ ...report, reporter })
    .onConflictDoNothing()
    .returning({ id: mailReport.id });
  if (stored === undefined || rows.length === 0) return;
  await tx
    .insert(mailReportRow)
    .values(rows.map((row, place) => ({ ...row, reportId: stored.id, place })));
}

/** Sums up the reports on proofs whose days are not over for longer, by machine and by what was found, the worst first. */
export async function sumUpProofs(db: Queries, days: number) {
  const { rows } = await db.execute<{
    source: string;
    dkim: boolean;
    spf: boolean;
    mails: string;
    refused: string;
    reporters: string[];
    last: string;
  }>(sql`
    select source, dkim, spf, sum(good + bad) as mails,
           coalesce(sum(good + bad) filter (where outcome in ('reject', 'quarantine')), 0) as refused,
           (array_agg(distinct reporter))[1:5] as reporters, max(ends) as last
    from ${mailReportRow} join ${mailReport} on ${mailReport.id} = ${mailReportRow.reportId}
    where kind = 'dmarc' and ends > now() - make_interval(days => ${days})
    group by source, dkim, spf order by (dkim or spf), sum(good + bad) desc, source limit 200`);
  return rows;
}

/** Sums up the reports on encryption whose days are not over for longer: what was right in all, and each problem by mail server. */
export async function sumUpSessions(db: Queries, days: number) {
  const { rows } = await db.execute<{
    source: string;
    problem: string;
    good: string;
    bad: string;
    reporters: string[];
    last: string;
  }>(sql`
    select case when outcome = '' then '' else source end as source, outcome as problem, sum(good) as good, sum(bad) as bad,
           (array_agg(distinct reporter))[1:5] as reporters, max(ends) as last
    from ${mailReportRow} join ${mailReport} on ${mailReport.id} = ${mailReportRow.reportId}
    where kind = 'tls' and ends > now() - make_interval(days => ${days})
    group by 1, 2 order by sum(bad) desc, 1 limit 200`);
  return rows;
}

/** Removes reports whose days are over for longer. Returns how many. */
export async function removeOldReports(db: Queries, days: number): Promise<number> {
  const gone = await db
    .delete(mailReport)
    .where(sql`${mailReport.ends} < now() - make_interval(days => ${days})`);
  return gone.rowCount ?? 0;
}
