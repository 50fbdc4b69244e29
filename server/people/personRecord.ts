import { asc, eq, inArray, or, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import { describeOrigins } from "../readings/origins";
import { season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { fact } from "../db/schema/people";
import { list, privateList, privateListPerson, greeting, membership } from "../db/schema/lists";
import { journal } from "../db/schema/journal";
import { post } from "../db/schema/posts";
import { delivery, bounce } from "../db/schema/deliveries";
import { formAnswer } from "../db/schema/forms";
import { intakeRow } from "../db/schema/intakes";

const MOST = 5000;

/** Everything that the house keeps of one person, of all seasons, for handing it to them. */
export async function personRecord(db: Queries, person: string) {
  const facts = await db
    .select({
      season: season.label,
      kind: fact.kind,
      about: fact.ref,
      value: fact.value,
      origin: fact.origin,
      from: fact.validFrom,
      until: fact.validUntil,
    })
    .from(fact)
    .innerJoin(season, eq(season.id, fact.seasonId))
    .where(or(eq(fact.subject, person), sql`(${fact.kind} = 'tie' and ${fact.ref} = ${person})`))
    .orderBy(asc(fact.validFrom))
    .limit(MOST);
  if (facts.length === 0) throw notFound("person");
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
    facts: facts.map(({ origin, ...own }) => ({ ...own, where: describe(origin).text })),
    memberships: of
      ? await db
          .select({
            list: list.title,
            season: season.label,
            address: membership.address,
            because: membership.origin,
            from: membership.validFrom,
            until: membership.validUntil,
          })
          .from(membership)
          .innerJoin(list, eq(list.id, membership.listId))
          .innerJoin(season, eq(season.id, list.seasonId))
          .where(inArray(membership.address, addresses))
          .orderBy(asc(membership.validFrom))
          .limit(MOST)
      : [],
    mailSent: of
      ? await db
          .select({
            at: delivery.createdAt,
            address: delivery.address,
            subject: post.subject,
            state: delivery.state,
            relaySaid: delivery.reply,
          })
          .from(delivery)
          .leftJoin(post, eq(post.id, delivery.postId))
          .where(inArray(delivery.address, addresses))
          .orderBy(asc(delivery.id))
          .limit(MOST)
      : [],
    mailWritten: of
      ? await db
          .select({
            at: post.at,
            subject: post.subject,
            address: post.fromAddress,
            outcome: post.outcome,
          })
          .from(post)
          .where(inArray(post.fromAddress, addresses))
          .orderBy(asc(post.at))
          .limit(MOST)
      : [],
    asked: of
      ? await db
          .select({
            at: greeting.at,
            address: greeting.address,
            kind: greeting.kind,
            by: greeting.by,
            answer: greeting.answer,
          })
          .from(greeting)
          .where(inArray(greeting.address, addresses))
          .orderBy(asc(greeting.at))
          .limit(MOST)
      : [],
    journal: of
      ? await db
          .select({ at: journal.at, who: journal.actor, entry: journal.sentence })
          .from(journal)
          .where(
            or(...addresses.map((address) => sql`position(${address} in ${journal.sentence}) > 0`)),
          )
          .orderBy(asc(journal.id))
          .limit(MOST)
      : [],
    formAnswers: of
      ? await db
          .select({
            at: formAnswer.at,
            address: formAnswer.address,
            answer: formAnswer.answer,
            state: formAnswer.state,
          })
          .from(formAnswer)
          .where(
            or(
              inArray(formAnswer.address, addresses),
              inArray(sql`lower(${formAnswer.answer}->>'secondAddress')`, addresses),
            ),
          )
          .orderBy(asc(formAnswer.at))
          .limit(MOST)
      : [],
    additions: of
      ? await db
          .select({ at: intakeRow.at, by: intakeRow.by, cells: intakeRow.cells })
          .from(intakeRow)
          .where(
            or(
              inArray(intakeRow.address, addresses),
              inArray(sql`lower(${intakeRow.cells}->>'address')`, addresses),
            ),
          )
          .orderBy(asc(intakeRow.at))
          .limit(MOST)
      : [],
    privateLists: await db
      .select({ list: privateList.name, of: account.name, as: privateListPerson.name })
      .from(privateListPerson)
      .innerJoin(privateList, eq(privateList.id, privateListPerson.privateListId))
      .innerJoin(account, eq(account.id, privateList.accountId))
      .where(eq(privateListPerson.person, person))
      .orderBy(asc(privateList.createdAt))
      .limit(MOST),
    mailReturned: of
      ? await db
          .select({
            at: bounce.at,
            address: bounce.address,
            what: bounce.sort,
            said: bounce.words,
          })
          .from(bounce)
          .where(inArray(bounce.address, addresses))
          .orderBy(asc(bounce.at))
          .limit(MOST)
      : [],
  };
}
