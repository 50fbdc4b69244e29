import { and, eq, or, sql, asc, inArray } from "drizzle-orm";
import { calendarDate, calendarGuest } from "../db/schema/dates";
import { shelfComment, shelfOpening, shelfThing, shelfVersion } from "../db/schema/shelf";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { mailIn } from "../db/schema/mailLog";
import { delivery, bounce } from "../db/schema/deliveries";
import { formAnswer } from "../db/schema/forms";
import { season } from "../db/schema/house";
import { intakeRow } from "../db/schema/intakes";
import { journal } from "../db/schema/journal";
import { list, membership, greeting, privateList, privateListPerson } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { post } from "../db/schema/posts";

const MOST = 5000;

/** Lists the facts about a person and their family ties, in every season. */
export function listRecordedFacts(db: Queries, person: string) {
  return db
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
}

/** Lists on which lists some addresses are or were. */
export function listRecordedMemberships(db: Queries, addresses: string[]) {
  return db
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
    .limit(MOST);
}

/** Lists the mails that were sent to some addresses. */
export function listRecordedCopies(db: Queries, addresses: string[]) {
  return db
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
    .limit(MOST);
}

/** Lists the mails that some addresses have sent. */
export function listRecordedPosts(db: Queries, addresses: string[]) {
  return db
    .select({
      at: post.at,
      subject: post.subject,
      address: post.fromAddress,
      outcome: post.outcome,
    })
    .from(post)
    .where(inArray(post.fromAddress, addresses))
    .orderBy(asc(post.at))
    .limit(MOST);
}

/** Lists the questions and welcomes to some addresses. */
export function listRecordedGreetings(db: Queries, addresses: string[]) {
  return db
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
    .limit(MOST);
}

/** Lists the entries of the journal that name some addresses. */
export function listRecordedEntries(db: Queries, addresses: string[]) {
  return db
    .select({ at: journal.at, who: journal.actor, entry: journal.sentence })
    .from(journal)
    .where(or(...addresses.map((address) => sql`position(${address} in ${journal.sentence}) > 0`)))
    .orderBy(asc(journal.id))
    .limit(MOST);
}

/** Lists the form answers from or about some addresses. */
export function listRecordedAnswers(db: Queries, addresses: string[]) {
  return db
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
    .limit(MOST);
}

/** Lists the rows of additions with some addresses. */
export function listRecordedRows(db: Queries, addresses: string[]) {
  return db
    .select({ at: intakeRow.at, by: intakeRow.by, cells: intakeRow.cells })
    .from(intakeRow)
    .where(
      or(
        inArray(intakeRow.address, addresses),
        inArray(sql`lower(${intakeRow.cells}->>'address')`, addresses),
      ),
    )
    .orderBy(asc(intakeRow.at))
    .limit(MOST);
}

/** Lists on whose private lists a person is. */
export function listRecordedPrivate(db: Queries, person: string) {
  return db
    .select({ list: privateList.name, of: account.name, as: privateListPerson.name })
    .from(privateListPerson)
    .innerJoin(privateList, eq(privateList.id, privateListPerson.privateListId))
    .innerJoin(account, eq(account.id, privateList.accountId))
    .where(eq(privateListPerson.person, person))
    .orderBy(asc(privateList.createdAt))
    .limit(MOST);
}

/** Lists the mails that came in from some addresses, and what was answered. */
export function listRecordedArrivals(db: Queries, addresses: string[]) {
  return db
    .select({
      at: mailIn.at,
      address: mailIn.fromAddress,
      name: mailIn.fromName,
      subject: mailIn.subject,
      cameFrom: mailIn.network,
      answer: mailIn.answer,
    })
    .from(mailIn)
    .where(inArray(mailIn.fromAddress, addresses))
    .orderBy(asc(mailIn.at))
    .limit(MOST);
}

/** Lists the mails to some addresses that came back. */
export function listRecordedBounces(db: Queries, addresses: string[]) {
  return db
    .select({
      at: bounce.at,
      address: bounce.address,
      what: bounce.sort,
      said: bounce.words,
    })
    .from(bounce)
    .where(inArray(bounce.address, addresses))
    .orderBy(asc(bounce.at))
    .limit(MOST);
}

/** Lists what some addresses have opened on shelves. */
export function listRecordedOpenings(db: Queries, addresses: readonly string[]) {
  return db
    .select({
      address: shelfOpening.address,
      title: shelfThing.title,
      firstAt: shelfOpening.firstAt,
      lastAt: shelfOpening.lastAt,
    })
    .from(shelfOpening)
    .innerJoin(shelfThing, eq(shelfThing.id, shelfOpening.thingId))
    .where(inArray(shelfOpening.address, [...addresses]))
    .orderBy(asc(shelfOpening.firstAt))
    .limit(MOST);
}

/** Lists what the owners of some addresses have put on shelves themselves, in what version. */
export function listRecordedVersions(db: Queries, addresses: readonly string[]) {
  return db
    .select({
      address: shelfVersion.address,
      title: shelfThing.title,
      file: shelfVersion.name,
      at: shelfVersion.at,
    })
    .from(shelfVersion)
    .innerJoin(shelfThing, eq(shelfThing.id, shelfVersion.thingId))
    .where(inArray(shelfVersion.address, [...addresses]))
    .orderBy(asc(shelfVersion.at))
    .limit(MOST);
}

/** Lists the links that the owners of some addresses have put on shelves. */
export function listRecordedLinks(db: Queries, addresses: readonly string[]) {
  return db
    .select({
      address: shelfThing.address,
      title: shelfThing.title,
      link: shelfThing.link,
      at: shelfThing.madeAt,
    })
    .from(shelfThing)
    .where(and(eq(shelfThing.kind, "link"), inArray(shelfThing.address, [...addresses])))
    .orderBy(asc(shelfThing.madeAt))
    .limit(MOST);
}

/** Lists what the owners of some addresses have said about things on shelves. */
export function listRecordedComments(db: Queries, addresses: readonly string[]) {
  return db
    .select({
      address: shelfComment.address,
      title: shelfThing.title,
      text: shelfComment.content,
      at: shelfComment.at,
    })
    .from(shelfComment)
    .innerJoin(shelfThing, eq(shelfThing.id, shelfComment.thingId))
    .where(inArray(shelfComment.address, [...addresses]))
    .orderBy(asc(shelfComment.at))
    .limit(MOST);
}

/** Lists the dates to which some addresses were invited, with what they answered. */
export function listRecordedInvitations(db: Queries, addresses: readonly string[]) {
  return db
    .select({
      address: calendarGuest.address,
      title: calendarDate.title,
      when: calendarDate.when,
      told: calendarGuest.told,
      answer: calendarGuest.answer,
      people: calendarGuest.people,
      word: calendarGuest.word,
      proposes: calendarGuest.proposes,
      remind: calendarGuest.remind,
      isWaiting: calendarGuest.isWaiting,
      answeredAt: calendarGuest.answeredAt,
    })
    .from(calendarGuest)
    .innerJoin(calendarDate, eq(calendarDate.id, calendarGuest.dateId))
    .where(inArray(calendarGuest.address, [...addresses]))
    .orderBy(asc(calendarDate.firstAt))
    .limit(MOST);
}
