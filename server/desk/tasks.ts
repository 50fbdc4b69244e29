import type { Database } from "../db/connect";
import { carryOutRows } from "../intakes/carryOutRows";
import { endUntil } from "../intakes/endUntil";
import { decideRequest } from "../requests/decideRequest";
import { forgetPerson } from "../people/forget";
import {
  answerQuestion,
  joinPeople,
  partPerson,
  settleByHand,
  withdrawByHand,
} from "../people/sayByHand";
import { bringInStep } from "../rounds/bringInStep";
import { decide } from "../rounds/decide";
import { agree, answerAsk } from "../change/answerMembers";
import { addMembers, keepAddress, letGo } from "../change/changeMembers";
import { carryOutEdit, planEdit } from "../rounds/planEdit";
import { leaveByLink, leaveList } from "../change/leaveList";
import { openSeason, planSeason } from "../rounds/openSeason";
import type { OnProgress } from "../change/openRound";
import { reopenRound } from "../rounds/reopenRound";
import { planTakeBack, takeBack } from "../rounds/takeBack";
import { changeAccount, endStaff } from "../staff/changeAccount";
import { answerSheet } from "../sources/answerSheet";
import { endCorrection, makeCorrection } from "../sources/correct";
import { matchSources } from "../sources/matchSources";
import { changeMeanings, readFile } from "../sources/readFile";
import { readingPage } from "../sources/readingPage";
import { readItself } from "../sources/readItself";

/** Everything that is done at the desk: each gets the database, what it is asked, and a way to tell how far it is. */
export const TASKS = {
  answerSheet,
  carryOutRows,
  endUntil,
  readFile,
  changeMeanings,
  matchSources,
  readItself,
  bringInStep,
  takeBack,
  planTakeBack: (db: Database, { round }: { round: number }) => planTakeBack(db, round),
  readingPage,
  decide,
  reopenRound,
  keepAddress,
  leaveList,
  leaveByLink,
  letGo,
  addMembers,
  agree,
  answerAsk,
  decideRequest,
  changeAccount,
  endStaff,
  forgetPerson,
  planEdit,
  carryOutEdit,
  planSeason,
  openSeason,
  makeCorrection,
  endCorrection,
  answerQuestion,
  joinPeople,
  partPerson,
  settleByHand,
  withdrawByHand,
} satisfies Record<string, (db: Database, ask: never, tell: OnProgress) => Promise<unknown>>;

export type Tasks = typeof TASKS;
export type TaskName = keyof Tasks;
export type Asked<Name extends TaskName> = Parameters<Tasks[Name]>[1];
export type Answered<Name extends TaskName> = Awaited<ReturnType<Tasks[Name]>>;
