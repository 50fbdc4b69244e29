import type { Queries } from "../db/connect";
import {
  removeOldAttempts,
  removeOldLinks,
  removeSentDrafts,
  removeOverMemberSessions,
} from "./queries";

/** Takes away what has run out: counted tries after a day, links after a month, members' sessions, drafts that were sent. Done by a job, so that nobody waits for it. */
export async function sweep(db: Queries): Promise<void> {
  await removeOldAttempts(db);
  await removeOldLinks(db);
  // A draft that has become a post was kept only so that it could be taken back.
  await removeSentDrafts(db);
  await removeOverMemberSessions(db);
}
