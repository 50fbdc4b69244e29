import { noSuch } from "../refused";
import type { Queries } from "../db/connect";
import { describeOrigins } from "../facts/describeOrigins";
import {
  listRecordedFacts,
  listRecordedMemberships,
  listRecordedCopies,
  listRecordedPosts,
  listRecordedGreetings,
  listRecordedEntries,
  listRecordedAnswers,
  listRecordedRows,
  listRecordedVersions,
  listRecordedPrivate,
  listRecordedArrivals,
  listRecordedBounces,
  listRecordedInvitations,
  listRecordedComments,
  listRecordedLinks,
  listRecordedOpenings,
} from "./recordQueries";

/** Everything that the house keeps of one person, of all seasons, for handing it to them. */
export async function personRecord(db: Queries, person: string) {
  const facts = await listRecordedFacts(db, person);
  if (facts.length === 0) return noSuch("person");
  const describe = await describeOrigins(
    db,
    facts.map(({ origin }) => origin),
  );
  const addresses = [
    ...new Set(facts.flatMap(({ kind, about }) => (kind === "address" ? [about] : []))),
  ];
  const of = addresses.length > 0;
  return {
    person,
    facts: facts.map(({ origin, ...rest }) => ({ ...rest, where: describe(origin).text })),
    memberships: of ? await listRecordedMemberships(db, addresses) : [],
    mailSent: of ? await listRecordedCopies(db, addresses) : [],
    mailWritten: of ? await listRecordedPosts(db, addresses) : [],
    asked: of ? await listRecordedGreetings(db, addresses) : [],
    journal: of ? await listRecordedEntries(db, addresses) : [],
    formAnswers: of ? await listRecordedAnswers(db, addresses) : [],
    additions: of ? await listRecordedRows(db, addresses) : [],
    privateLists: await listRecordedPrivate(db, person),
    invitations: of ? await listRecordedInvitations(db, addresses) : [],
    shelf: of ? await listRecordedOpenings(db, addresses) : [],
    sharedFiles: of ? await listRecordedVersions(db, addresses) : [],
    sharedLinks: of ? await listRecordedLinks(db, addresses) : [],
    comments: of ? await listRecordedComments(db, addresses) : [],
    mailReceivedFromThem: of ? await listRecordedArrivals(db, addresses) : [],
    mailReturned: of ? await listRecordedBounces(db, addresses) : [],
  };
}
