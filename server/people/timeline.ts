import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { message, written, type Message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Fact } from "@amigo/core/facts/fact";
import { nameOf } from "@amigo/core/facts/factIndex";
import type { PersonPage } from "@amigo/contract/people";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { peopleOf } from "../membership/scope";
import { describeOrigins } from "../facts/describeOrigins";
import { subjectOfNote } from "../posting/subjectOfNote";
import { t } from "../texts/t";
import { MOST } from "./queries";
import { listFactHistory, listMembershipHistory, listMailsTo, listNamesOf } from "./historyQueries";

type Line = PersonPage["timeline"][number];

const nowhere = { text: "", reading: null, source: null };

/** What became known of somebody and when, what ended, on which lists, of those that the asker sees, their addresses came and went, and what was sent to them; newest first. */
export async function timelineOf(
  db: Queries,
  caller: Caller,
  seasonId: number,
  person: string,
): Promise<Line[]> {
  const within = peopleOf(caller, seasonId);
  const rows = await listFactHistory(db, seasonId, person, within);
  const describe = await describeOrigins(
    db,
    rows.map(({ origin }) => origin),
  );
  const names = await namesOf(db, seasonId, rows as Fact[], person);
  const addresses = [
    ...new Set(rows.flatMap(({ kind, ref }) => (kind === "address" ? [ref] : []))),
  ];
  const memberships =
    addresses.length === 0 ? [] : await listMembershipHistory(db, addresses, caller);
  const mails = await mailsTo(db, caller, addresses);
  const lines: Line[] = [
    ...rows.flatMap(({ from, until, fromRound, untilRound, ...rest }): Line[] => {
      const said = rest as Fact;
      const words = kindOf(said).words?.(said, person, (id) => nameOrSomebody(names, id));
      if (words === undefined) return [];
      const begun: Line = {
        at: from.toISOString(),
        what: say(words.begins),
        sign: "+",
        where: describe(rest.origin),
        round: fromRound,
      };
      return until === null
        ? [begun]
        : [
            begun,
            {
              at: until.toISOString(),
              what: say(words.ends),
              sign: "−",
              where: nowhere,
              round: untilRound,
            },
          ];
    }),
    ...memberships.flatMap(({ address, title, from, until, fromRound, untilRound }): Line[] => [
      {
        at: from.toISOString(),
        what: t("people.joined", { address, title }),
        sign: "+",
        where: nowhere,
        round: fromRound,
      },
      ...(until === null
        ? []
        : [
            {
              at: until.toISOString(),
              what: t("people.left", { address, title }),
              sign: "−" as const,
              where: nowhere,
              round: untilRound,
            },
          ]),
    ]),
    ...mails,
  ];
  return lines.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0)).slice(0, MOST);
}

/**
 * What was sent to some addresses: the posts of lists that the asker sees, and for coordinators Amigo's own notes. Of what somebody
 * else has written to them alone it is told that there was something, not what.
 */
async function mailsTo(db: Queries, caller: Caller, addresses: readonly string[]): Promise<Line[]> {
  if (addresses.length === 0) return [];
  const isWhole = caller.role === "coordinator";
  const rows = await listMailsTo(db, isWhole, addresses, caller);
  return Promise.all(
    rows.map(
      async ({ address, at, state, subject, by, byId, title, isDigest, head }): Promise<Line> => {
        const what =
          subject === null
            ? isDigest
              ? t("people.theDigest")
              : t("people.fromAmigo", { head: (await subjectOfNote(head)) ?? "a note" })
            : title !== null
              ? t("people.byWayOf", { subject, title })
              : byId === caller.id
                ? t("people.fromYou", { subject })
                : t("people.aMailFrom", { by });
        return {
          at: at.toISOString(),
          what: t("people.sentTo", { what, address, state }),
          sign: "→",
          where: nowhere,
          round: null,
        };
      },
    ),
  );
}

function nameOrSomebody(names: ReadonlyMap<string, string>, id: string): Message {
  const name = names.get(id);
  return name === undefined ? message("facts.somebody") : written(name);
}

async function namesOf(
  db: Queries,
  seasonId: number,
  rows: readonly Fact[],
  person: string,
): Promise<Map<string, string>> {
  const ids = [
    ...new Set(
      rows.flatMap(({ kind, subject, ref }) =>
        kind === "tie" ? [subject === person ? ref : subject] : kind === "enrolment" ? [ref] : [],
      ),
    ),
  ];
  const found = ids.length === 0 ? [] : ((await listNamesOf(db, seasonId, ids)) as Fact[]);
  return new Map(
    found.map((fact) => [
      fact.subject,
      fact.kind === "name" ? nameOf(fact.value) : fact.kind === "cohort" ? fact.value.name : "",
    ]),
  );
}
