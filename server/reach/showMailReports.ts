import { say } from "@amigo/language/say";
import type { getMailReports } from "@amigo/contract/mail";
import { adviceOnProblem, adviceOnSource, kindOfSource } from "@amigo/core/mail/reports/adviceOf";
import type { Context } from "../context";
import type { Answer } from "../http/handler";
import { sumUpProofs, sumUpSessions } from "../mail/reportQueries";

/** Of how many days reports are summed up. */
const DAYS = 30;

/** Returns what receivers of our mail report on signatures and encryption, with what to do. */
export async function showMailReports({ db }: Context): Promise<Answer<typeof getMailReports>> {
  const [proofs, sessions] = await Promise.all([sumUpProofs(db, DAYS), sumUpSessions(db, DAYS)]);
  return {
    days: DAYS,
    proofs: proofs.map(({ source, reporters, mails, refused, last, ...found }) => {
      const kind = kindOfSource(found);
      return {
        ...{ source, kind, reporters, advice: say(adviceOnSource(kind)) },
        ...{ mails: Number(mails), refused: Number(refused), last: new Date(last).toISOString() },
      };
    }),
    sessions: {
      encrypted: sessions.reduce((sum, { good }) => sum + Number(good), 0),
      problems: sessions
        .filter(({ problem }) => problem !== "")
        .map(({ source, problem, bad, reporters, last }) => ({
          ...{ server: source, problem, reporters, sessions: Number(bad) },
          ...{ last: new Date(last).toISOString(), advice: say(adviceOnProblem(problem)) },
        })),
    },
  };
}
